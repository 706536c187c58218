/** Scenes whose light is polarized: a screen, water and leaves that reflect, a clear sky. With the places to measure there. */
import type { PixelRect } from '@/core/reading/window';
import type { BenchPlan, Polarization, SimulatedScene } from './truth';

interface FractionRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export const SCREEN_RECT: FractionRect = { x: 0.35, y: 0.35, width: 0.3, height: 0.3 };
export const WATER_RECTS = {
  glare: { x: 0.1, y: 0.55, width: 0.25, height: 0.25 },
  reference: { x: 0.42, y: 0.55, width: 0.16, height: 0.25 },
  leaves: { x: 0.65, y: 0.2, width: 0.2, height: 0.2 },
  paint: { x: 0.65, y: 0.6, width: 0.2, height: 0.2 },
};
export const SKY_RECTS = {
  near: { x: 0.05, y: 0.08, width: 0.2, height: 0.2 },
  far: { x: 0.72, y: 0.08, width: 0.2, height: 0.2 },
  reference: { x: 0.4, y: 0.7, width: 0.2, height: 0.2 },
};

/** Where a patch's light comes from: what the surface itself gives, and what it reflects or the air scatters, polarized to a degree. */
interface Surface {
  body: [number, number, number];
  sheen: [number, number, number];
  degree: number;
}

const GRAY: Surface = { body: [0.3, 0.3, 0.3], sheen: [0, 0, 0], degree: 0 };

export function surfacesOf(
  scene: SimulatedScene,
  { degree }: Polarization,
): { rect: FractionRect; surface: Surface }[] {
  if (scene === 'water')
    return [
      { rect: WATER_RECTS.glare, surface: { body: [0.03, 0.05, 0.05], sheen: [0.5, 0.5, 0.5], degree } },
      { rect: WATER_RECTS.leaves, surface: { body: [0.1, 0.25, 0.06], sheen: [0.08, 0.08, 0.09], degree } },
      { rect: WATER_RECTS.paint, surface: { body: [0.4, 0.08, 0.06], sheen: [0, 0, 0], degree: 0 } },
    ];
  return [
    { rect: SKY_RECTS.near, surface: { body: [0, 0, 0], sheen: [0.25, 0.36, 0.6], degree } },
    { rect: SKY_RECTS.far, surface: { body: [0, 0, 0], sheen: [0.28, 0.38, 0.58], degree: 0.6 * degree } },
  ];
}

/** Heading of the nth picture of a full turn. */
export const headingOf = (index: number, pictures: number) => (360 * index) / (pictures - 1);

/** Degree of polarization of the sky at a heading: Rayleigh's sin²γ/(1 + cos²γ) in a haze. */
export function degreeAt({ sun, altitude, clarity }: NonNullable<BenchPlan['turn']>, heading: number): number {
  const rad = Math.PI / 180;
  const cosine =
    Math.sin(sun.altitude * rad) * Math.sin(altitude * rad) +
    Math.cos(sun.altitude * rad) * Math.cos(altitude * rad) * Math.cos((heading - sun.azimuth) * rad);
  return (clarity * (1 - cosine ** 2)) / (1 + cosine ** 2);
}

/** Light of a window per channel, white = 1: unpolarized, and wholly polarized along one ring angle. */
export function polarizedScene(
  scene: SimulatedScene,
  polarization: Polarization,
  frame: { width: number; height: number },
  window: PixelRect,
): { plain: Float64Array; polarized: Float64Array } {
  const plain = new Float64Array(window.width * window.height * 3);
  const polarized = new Float64Array(plain.length);
  if (scene === 'screen') {
    polarized.fill(0.6);
    return { plain, polarized };
  }
  const surfaces = surfacesOf(scene, polarization);
  for (let y = 0, i = 0; y < window.height; y++)
    for (let x = 0; x < window.width; x++, i += 3) {
      const [fx, fy] = [(window.x + x + 0.5) / frame.width, (window.y + y + 0.5) / frame.height];
      // Surfaces reach a little beyond the places that are measured.
      const inside = (rect: FractionRect) =>
        Math.abs(fx - rect.x - rect.width / 2) < rect.width * 0.55 &&
        Math.abs(fy - rect.y - rect.height / 2) < rect.height * 0.55;
      const { body, sheen, degree } = surfaces.find(({ rect }) => inside(rect))?.surface ?? GRAY;
      for (let c = 0; c < 3; c++) {
        plain[i + c] = body[c] + sheen[c] * (1 - degree);
        polarized[i + c] = sheen[c] * degree;
      }
    }
  return { plain, polarized };
}
