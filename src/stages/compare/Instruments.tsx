'use client';

import { fixed } from '@/ui/format';

const BINS = 64;
const [WIDTH, HEIGHT] = [180, 46];

export interface Spread {
  /** Counts of codes by channel, R, G, B. */
  bins: number[][];
  /** Shares of what is shown. */
  white: number;
  black: number;
}

/** How light is spread in a picture as it is shown: codes of the screen, in 64 steps. */
export function spreadOf(light: Float32Array, gains: readonly number[], white: number): Spread {
  const bins = [0, 1, 2].map(() => new Array<number>(BINS).fill(0));
  let [over, under] = [0, 0];
  for (let i = 0; i < light.length; i++) {
    const x = Math.min(1, Math.max(0, (light[i] * gains[i % 3]) / white));
    const code = x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055;
    bins[i % 3][Math.min(BINS - 1, Math.floor(code * BINS))]++;
    if (x >= 1) over++;
    if (code < 2 / 255) under++;
  }
  const count = Math.max(1, light.length);
  return { bins, white: over / count, black: under / count };
}

/** Histogram and parade of every picture's shown area; gray, since colors beside a picture lead eyes astray. */
export function Instruments({ spreads, names }: { spreads: readonly Spread[]; names: readonly string[] }) {
  return (
    <ul aria-label="Histograms of what is shown" className="flex gap-6 flex-wrap py-2">
      {spreads.map((spread, i) => (
        <li key={i}>
          <p className="text-small">
            <b>{names[i]}</b>{' '}
            <span className="text-ink-2">
              {fixed(100 * spread.white, 1)} % at white, {fixed(100 * spread.black, 1)} % at black
            </span>
          </p>
          <div className="flex gap-1.5 mt-1" aria-hidden>
            {['R', 'G', 'B'].map((channel, c) => (
              <Bars key={channel} bins={spread.bins[c]} label={channel} />
            ))}
          </div>
        </li>
      ))}
    </ul>
  );
}

function Bars({ bins, label }: { bins: readonly number[]; label: string }) {
  const top = Math.sqrt(Math.max(1, ...bins));
  const points = bins
    .map((count, i) => `${(i * WIDTH) / 3 / BINS},${HEIGHT - (HEIGHT * Math.sqrt(count)) / top}`)
    .join(' ');
  return (
    <svg width={WIDTH / 3} height={HEIGHT} className="bg-well rounded-sm">
      <polygon points={`0,${HEIGHT} ${points} ${WIDTH / 3},${HEIGHT}`} fill="#c9c9c9" />
      <text x={4} y={12} fontSize={11} fill="#b0b0b0">
        {label}
      </text>
    </svg>
  );
}
