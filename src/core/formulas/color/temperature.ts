/**
 * Correlated color temperature and distance from the Planckian locus.
 * Source: Ohno, "Practical use and calculation of CCT and Duv", LEUKOS 10 (2014) 47–55 (combined triangular and
 * parabolic solutions). McCamy's cubic (Color Res. Appl. 17 (1992) 142–144) serves as a check in tests.
 */
import { OBSERVER, OBSERVER_START_NM, OBSERVER_STEP_NM } from './observer';
import type { Vector3 } from './spaces';

export interface ColorTemperature {
  kelvin: number;
  /** Signed distance from the locus in CIE 1960 (u, v); positive is greenish. */
  duv: number;
}

/** Second radiation constant, m·K (CODATA 2018). */
const C2 = 1.438776877e-2;
const LOWEST = 1000;
const HIGHEST = 40000;
const STEP = 1.01;

/** XYZ, up to scale, of a black body: sum over the 2° observer. */
export function planckianXyz(kelvin: number): Vector3 {
  let x = 0;
  let y = 0;
  let z = 0;
  OBSERVER.forEach(([xBar, yBar, zBar], index) => {
    const metres = (OBSERVER_START_NM + OBSERVER_STEP_NM * index) * 1e-9;
    const power = 1 / (metres ** 5 * Math.expm1(C2 / (metres * kelvin)));
    x += power * xBar;
    y += power * yBar;
    z += power * zBar;
  });
  return [x / y, 1, z / y];
}

function uv(xyz: Vector3): [number, number] {
  const sum = xyz[0] + 15 * xyz[1] + 3 * xyz[2];
  return [(4 * xyz[0]) / sum, (6 * xyz[1]) / sum];
}

let locus: { kelvin: number; u: number; v: number }[] | null = null;

function planckianLocus() {
  if (locus) return locus;
  locus = [];
  for (let kelvin = LOWEST; kelvin <= HIGHEST; kelvin *= STEP) {
    const [u, v] = uv(planckianXyz(kelvin));
    locus.push({ kelvin, u, v });
  }
  return locus;
}

/**
 * CCT and Duv of a color. `null` where a CCT has no meaning: outside 1000–40000 K or farther than 0.05 from the
 * locus (CIE 15:2004 sets that bound).
 */
export function colorTemperature(xyz: Vector3): ColorTemperature | null {
  const table = planckianLocus();
  const [u, v] = uv(xyz);
  const distances = table.map((entry) => Math.hypot(u - entry.u, v - entry.v));
  let nearest = 0;
  for (let index = 1; index < distances.length; index++) if (distances[index] < distances[nearest]) nearest = index;
  if (nearest === 0 || nearest === table.length - 1) return null;
  const [before, at, after] = [table[nearest - 1], table[nearest], table[nearest + 1]];
  const [d0, d1, d2] = [distances[nearest - 1], distances[nearest], distances[nearest + 1]];

  // Triangular solution, good near the locus.
  const span = Math.hypot(after.u - before.u, after.v - before.v);
  const along = (d0 * d0 - d2 * d2 + span * span) / (2 * span);
  const triangular = before.kelvin + (after.kelvin - before.kelvin) * (along / span);
  const height = Math.sqrt(Math.max(0, d0 * d0 - along * along));
  const locusV = before.v + (after.v - before.v) * (along / span);
  const sign = v >= locusV ? 1 : -1;
  if (height < 0.002) return height > 0.05 ? null : { kelvin: triangular, duv: sign * height };

  // Parabolic solution, good away from it.
  const scale = (after.kelvin - at.kelvin) * (before.kelvin - after.kelvin) * (at.kelvin - before.kelvin);
  const a = (before.kelvin * (d2 - d1) + at.kelvin * (d0 - d2) + after.kelvin * (d1 - d0)) / scale;
  const b = -(before.kelvin ** 2 * (d2 - d1) + at.kelvin ** 2 * (d0 - d2) + after.kelvin ** 2 * (d1 - d0)) / scale;
  const c =
    -(
      d0 * (after.kelvin - at.kelvin) * at.kelvin * after.kelvin +
      d1 * (before.kelvin - after.kelvin) * before.kelvin * after.kelvin +
      d2 * (at.kelvin - before.kelvin) * before.kelvin * at.kelvin
    ) / scale;
  const kelvin = -b / (2 * a);
  const duv = sign * (a * kelvin * kelvin + b * kelvin + c);
  return Math.abs(duv) > 0.05 ? null : { kelvin, duv };
}

/** McCamy's cubic approximation of CCT from chromaticity; a check, good to a few kelvin between 3000 and 9000 K. */
export function mccamyTemperature(x: number, y: number): number {
  const n = (x - 0.332) / (0.1858 - y);
  return 449 * n ** 3 + 3525 * n ** 2 + 6823.3 * n + 5520.33;
}
