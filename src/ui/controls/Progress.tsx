import { Progress as Primitive } from 'radix-ui';

/** How far something has come. */
export function Progress({
  label,
  done,
  total,
  className = '',
}: {
  label: string;
  done: number;
  /** 0 while it is not known. */
  total: number;
  className?: string;
}) {
  return (
    <Primitive.Root
      aria-label={label}
      value={total > 0 ? Math.min(done, total) : null}
      max={Math.max(1, total)}
      className={`h-2 rounded-full bg-well overflow-hidden ${className}`}
    >
      <Primitive.Indicator
        className="h-full bg-accent transition-[width] duration-150"
        style={{ width: total > 0 ? `${(100 * done) / total}%` : 0 }}
      />
    </Primitive.Root>
  );
}
