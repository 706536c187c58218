/** The stand-in camera's response: from linear light to code values. */
import type { TrueCamera } from './truth';

/** A toe, a nearly straight middle in stops, a shoulder. */
function sigmoid(light: number): number {
  return 1 / (1 + (Math.max(light, 1e-5) / 0.15) ** -0.9);
}

/** Hybrid log-gamma OETF (ITU-R BT.2100, table 5; constants from memory), scene light 1 → signal 1. */
function hybridLogGamma(light: number): number {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073];
  return light <= 1 / 12 ? Math.sqrt(3 * light) : a * Math.log(12 * light - b) + c;
}

/** Encodes linear light (share of full scale) into a code share, by the camera's response. */
function encode(response: TrueCamera['response'], light: number): number {
  const value = Math.min(1, Math.max(0, light));
  if (response === 'linear') return value;
  if (response === 'srgb') return value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055;
  if (response === 's-curve') return (sigmoid(value) - sigmoid(0)) / (sigmoid(1) - sigmoid(0));
  if (response === 'hlg') return hybridLogGamma(value);
  if (response === 'bt709') return value < 0.018 ? 4.5 * value : 1.099 * value ** 0.45 - 0.099;
  return value ** (1 / response.gamma);
}

const STEPS = 16384;

/**
 * The response with a table where it is smooth: straight lines between 16384 steps are right to 1e−6 above a hundredth
 * of full scale, a fifteenth of a 16-bit code; below, the formula itself.
 */
export function encoder(response: TrueCamera['response']): (light: number) => number {
  if (response === 'linear') return (light) => encode('linear', light);
  const table = tableOf(response);
  return (light) => (light < 0.01 || light >= 1 ? encode(response, light) : between(table, light));
}

function between(table: Float64Array, light: number): number {
  const at = light * STEPS;
  const index = at | 0;
  return table[index] + (at - index) * (table[index + 1] - table[index]);
}

const tables = new Map<string, Float64Array>();

function tableOf(response: TrueCamera['response']): Float64Array {
  const key = JSON.stringify(response);
  const table = tables.get(key) ?? Float64Array.from({ length: STEPS + 2 }, (_, i) => encode(response, i / STEPS));
  tables.set(key, table);
  return table;
}

/**
 * Writes the codes of a row of light, as {@link encoder} has them.
 *
 * @param light in whatever unit `full` is full scale of
 * @param top the highest code
 * @param at where in `codes` the row begins
 */
export function encodeRow(
  response: TrueCamera['response'],
  light: Float64Array,
  full: number,
  top: number,
  codes: Uint8Array | Uint16Array,
  at: number,
): void {
  const table = response === 'linear' ? null : tableOf(response);
  for (let i = 0; i < light.length; i++) {
    const value = light[i] / full;
    const share = table && value >= 0.01 && value < 1 ? between(table, value) : encode(response, value);
    codes[at + i] = (top * share + 0.5) | 0;
  }
}
