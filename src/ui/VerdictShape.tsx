/** A verdict's shape: filled disc true, half disc close, open triangle off, dashed square withheld. Never color alone. */
export type Shape = 'disc' | 'half' | 'triangle' | 'square' | 'ring';

export function shapeOf(label: string): Shape {
  if (label === 'true') return 'disc';
  if (label === 'off') return 'triangle';
  if (label === 'withheld') return 'square';
  if (label === 'unrated') return 'ring';
  return 'half';
}

/** The shape as SVG content around a center; `color` is any CSS color. */
export function ShapeAt({
  shape,
  x,
  y,
  color,
  size = 6,
}: {
  shape: Shape;
  x: number;
  y: number;
  color: string;
  size?: number;
}) {
  const r = size;
  switch (shape) {
    case 'disc':
      return <circle cx={x} cy={y} r={r} fill={color} />;
    case 'half':
      return (
        <g>
          <circle cx={x} cy={y} r={r - 0.75} fill="var(--color-ladder)" stroke={color} strokeWidth="1.5" />
          <path d={`M${x} ${y - r} a${r} ${r} 0 0 1 0 ${2 * r}z`} fill={color} />
        </g>
      );
    case 'triangle':
      return (
        <path
          d={`M${x} ${y - r - 1} L${x + r + 1} ${y + r - 1} L${x - r - 1} ${y + r - 1}z`}
          fill="var(--color-ladder)"
          stroke={color}
          strokeWidth="1.6"
          strokeLinejoin="round"
        />
      );
    case 'square':
      return (
        <rect
          x={x - r + 1}
          y={y - r + 1}
          width={2 * r - 2}
          height={2 * r - 2}
          fill="none"
          stroke={color}
          strokeWidth="1.5"
          strokeDasharray="2.5 2"
        />
      );
    case 'ring':
      return <circle cx={x} cy={y} r={r - 1} fill="var(--color-ladder)" stroke={color} strokeWidth="1.5" />;
  }
}

/** The shape before its word in a table. */
export function VerdictShape({ label }: { label: string }) {
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden className="inline-block align-[-3px] mr-1.5">
      <ShapeAt shape={shapeOf(label)} x={8} y={8} color="var(--color-ink)" size={5.5} />
    </svg>
  );
}
