/** Sessions of a polarizer, a variable and a graduated filter drawn at random, for coverage and accuracy. */
import { seededRandom } from './random';
import type { BenchPlan, TrueFilter } from './truth';

/**
 * One filter of each kind, the polarizer before screen, water and sky at 3 to 13 ring angles, the others before an even wall.
 *
 * @param drift of the light over the session, stops
 */
export function randomKinds(seed: string, bitDepth: 8 | 16, drift: number): BenchPlan {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + (high - low) * random.uniform();
  const around = (stops: number): [number, number, number] => [
    stops + between(-0.1, 0.1),
    stops,
    stops + between(-0.1, 0.1),
  ];
  const count = [3, 5, 7, 13][Math.floor(4 * random.uniform())];
  const start = between(0, 180 / count);
  const marks = [1, 2, 3, 4].map((mark, i) => ({ mark, stops: 1.5 + i * between(0.6, 1.2) }));
  const filters: TrueFilter[] = [
    {
      id: 'pl',
      name: 'PL',
      kind: random.uniform() < 0.5 ? 'polarizer' : 'nd-polarizer',
      nominal: { stops: 1.5 },
      stops: around(between(1.2, 4)),
      polarizer: { axisDegrees: between(0, 180), extinctionStops: between(2, 9) },
    },
    {
      id: 'vnd',
      name: 'VND',
      kind: 'variable-nd',
      nominal: { stopsRange: [2, 5] },
      stops: [between(-0.05, 0.05), 0, between(-0.05, 0.05)],
      variable: {
        marks: marks.sort((a, b) => a.stops - b.stops).map((one, i) => ({ mark: i + 1, stops: one.stops })),
        cross: { from: between(1.5, 3.5), stopsPerMark: between(0.05, 0.3), axisDegrees: between(0, 180) },
      },
    },
    {
      id: 'grad',
      name: 'GND',
      kind: 'graduated-nd',
      nominal: { opticalDensity: 0.9 },
      stops: [0.03, 0.03, 0.03],
      graduation: {
        denseStops: [between(1.5, 4), 0, 0],
        midline: between(0.35, 0.65),
        width: between(0.06, 0.4),
        angleDegrees: between(-40, 40) + (random.uniform() < 0.3 ? 180 : 0),
      },
    },
  ];
  const { graduation } = filters[2];
  graduation!.denseStops = [graduation!.denseStops[0], graduation!.denseStops[0], graduation!.denseStops[0]];
  return {
    title: seed,
    seed,
    width: 720,
    height: 480,
    camera: {
      response: bitDepth === 16 ? 'linear' : random.uniform() < 0.5 ? 'srgb' : 'bt709',
      bitDepth,
      fullWell: 12000,
      readNoise: 3,
      falloffStops: between(0, 0.6),
      blurPx: 0.6,
    },
    lamps: { driftStops: random.uniform() < 0.5 ? drift : -drift },
    protocol: random.uniform() < 0.7 ? 'matched' : 'automatic',
    bareLevel: 0.9,
    filters,
    repeats: 2,
    bareEvery: 3,
    startedAt: '2026-05-14T09:00:00Z',
    scenes: ['flat', 'screen', 'water', 'sky'],
    sweep: Array.from({ length: count }, (_, i) => Math.round(10 * (start + (180 * i) / count)) / 10),
    polarization: { lightDegrees: between(0, 180), degree: between(0.2, 0.9) },
  };
}
