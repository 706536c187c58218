/** A small histogram: green filled, red and blue as lines, all in grays, since eyes judge color beside it. */
export function Histogram({ channels, label }: { channels: number[][]; label: string }) {
  const [red, green, blue] = channels;
  const count = green.length;
  const line = (heights: number[]) => heights.map((height, i) => `${i},${20 - 20 * height}`).join(' ');
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${count - 1} 20`}
      preserveAspectRatio="none"
      className="block w-full h-[20px] mt-1 bg-well rounded-sm"
    >
      <polygon points={`0,20 ${line(green)} ${count - 1},20`} className="fill-ink-4" />
      <polyline
        points={line(red)}
        className="fill-none stroke-ink-2"
        strokeWidth="1"
        vectorEffect="non-scaling-stroke"
      />
      <polyline
        points={line(blue)}
        className="fill-none stroke-ink"
        strokeWidth="1"
        strokeDasharray="2 2"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
