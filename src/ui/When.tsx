'use client';

/** A moment in the reader's own time, to the minute. */
export function When({ at }: { at: string }) {
  const time = new Date(at);
  const two = (value: number) => String(value).padStart(2, '0');
  const day = `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`;
  return (
    <time dateTime={at} suppressHydrationWarning>
      {day} {two(time.getHours())}:{two(time.getMinutes())}
    </time>
  );
}
