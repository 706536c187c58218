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

/**
 * The response with a table where it is smooth: straight lines between 16384 steps are right to 1e−6 above a hundredth
 * of full scale, a fifteenth of a 16-bit code; below, the formula itself.
 */
export function encoder(response: TrueCamera['response']): (light: number) => number {
  const key = JSON.stringify(response);
  const known = encoders.get(key);
  if (known) return known;
  const made = makeEncoder(response);
  encoders.set(key, made);
  return made;
}

const encoders = new Map<string, (light: number) => number>();

function makeEncoder(response: TrueCamera['response']): (light: number) => number {
  if (response === 'linear') return (light) => encode('linear', light);
  const steps = 16384;
  const table = Float64Array.from({ length: steps + 2 }, (_, i) => encode(response, i / steps));
  return (light) => {
    if (light < 0.01 || light >= 1) return encode(response, light);
    const at = light * steps;
    const index = Math.floor(at);
    return table[index] + (at - index) * (table[index + 1] - table[index]);
  };
}
