/** Look-up tables that cancel a filter's cast: `.cube` text, 3-D and 1-D, in linear light or the rig's own encoding. */
import type { Decode } from '../formulas/transfer/transfer';

/** Points a side of the 3-D table (formats.md, section 5), and of the 1-D one. */
const SIDE = 33;
const LENGTH = 4096;

export interface CubeAsk {
  title: string;
  /** Factors on linear R, G, B. */
  gains: { r: number; g: number; b: number };
  /** Code (0–1) to linear light; leave out for tables in linear light. */
  decode?: Decode;
}

/** Code that stands for a light, by halving: whatever the curve is, as long as it rises. */
function encoder(decode: Decode): (light: number) => number {
  const top = decode(1);
  return (light) => {
    if (light <= decode(0)) return 0;
    if (light >= top) return 1;
    let [low, high] = [0, 1];
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (decode(middle) < light) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
}

/** One channel's code after the correction. */
function corrected({ decode }: CubeAsk, gain: number): (code: number) => number {
  if (!decode) return (light) => Math.min(1, gain * light);
  const encode = encoder(decode);
  return (code) => encode(gain * decode(code));
}

const head = (title: string, size: string) =>
  `TITLE "${title.replace(/["\r\n]/g, ' ')}"\n${size}\nDOMAIN_MIN 0.0 0.0 0.0\nDOMAIN_MAX 1.0 1.0 1.0\n`;
const line = (values: readonly number[]) => values.map((value) => value.toFixed(7)).join(' ');

/** A 3-D table of 33 points a side, red running fastest. Codes beyond the domain are left to the program that applies it. */
export function cube3d(ask: CubeAsk): string {
  const row = (gain: number) => {
    const of = corrected(ask, gain);
    return Array.from({ length: SIDE }, (_, i) => of(i / (SIDE - 1)));
  };
  const [r, g, b] = [row(ask.gains.r), row(ask.gains.g), row(ask.gains.b)];
  const lines: string[] = [];
  for (const blue of b) for (const green of g) for (const red of r) lines.push(line([red, green, blue]));
  return `${head(ask.title, `LUT_3D_SIZE ${SIDE}`)}${lines.join('\n')}\n`;
}

/** A 1-D table, a curve a channel. */
export function cube1d(ask: CubeAsk): string {
  const [r, g, b] = [ask.gains.r, ask.gains.g, ask.gains.b].map((gain) => corrected(ask, gain));
  const lines = Array.from({ length: LENGTH }, (_, i) => {
    const code = i / (LENGTH - 1);
    return line([r(code), g(code), b(code)]);
  });
  return `${head(ask.title, `LUT_1D_SIZE ${LENGTH}`)}${lines.join('\n')}\n`;
}
