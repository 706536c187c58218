/** A filter's fall of light over the frame, from registered ordinary scenes (formats.md, shading on a `frame` patch). */
import { luminanceRow, type ColorSpace } from '../../formulas/color/spaces';
import { CORNERS, type Corner } from './field';
import { byOneCurve, responseUOfLight, type ResolvedResponse } from '../../light/response';
import type { OrdinaryScene } from '../../laying/ordinaryTypes';
import { median } from '../../formulas/statistics/averages';
import { ALIKE } from '../strength/solveChannel';
import type { Fault, Reading, ShadingReadings } from '../../session/readings';
import { cornersWithheld } from '../../words/shading';
import { combine, reading } from '../../formulas/statistics/budget';
import type { SolvedFilter } from '../strength/solvedScene';

/** A corner less certain than this is withheld (formats.md), in stops. */
const WIDEST_CORNER_U95 = 0.1;
/** An even polynomial of the sixth order is a model: this much of a corner's figure, stops, is its own. Our own judgement. */
const MODEL_U = 0.0045;
const COLUMNS = 20;

/** The corners and the map of a filter on an ordinary scene. */
export function estimateFrameShading(
  scene: OrdinaryScene,
  { channels, pairs }: SolvedFilter,
  space: ColorSpace,
  response: ResolvedResponse | null,
): { shading: ShadingReadings; faults: Fault[] } {
  const weights = luminanceRow(space);
  const aspect = scene.height / scene.width;
  const diagonal = Math.hypot(1, aspect);
  const stops = channels.map((one) => median(pairs.map((pair) => one.levels[scene.pairs[pair].first])));
  const top = Math.max(...stops);
  const passes = stops.map((one) => 2 ** (one - top));
  const shadeAt = (x: number, y: number): number => {
    const terms = termsAt(x / diagonal, y / diagonal);
    const each = channels.map((one) => terms.reduce((sum, term, k) => sum + term * one.shade[k], 0));
    const [lit, plain] = [each.map((one) => 2 ** one), [1, 1, 1]].map((one) =>
      weights.reduce((sum, weight, c) => sum + weight * passes[c] * one[c], 0),
    );
    return Math.log2(lit / plain);
  };
  // Frames of one clip, a moment apart, err alike too.
  const alike = scene.pictures.some(({ seconds }) => seconds !== null) ? 2 * ALIKE : ALIKE;
  const side = Math.floor(0.05 * scene.width) / scene.width;
  const corners: Partial<Record<Corner, Reading>> = {};
  const middles = middleLights(scene, pairs, response);
  let withheld = 0;
  let mostly: string | undefined;
  let budget: ReturnType<typeof combine>['lines'] = [];
  let darkest: Reading | null = null;
  for (const corner of CORNERS) {
    const [x, y] = [
      (corner.endsWith('Left') ? -1 : 1) * (1 - side),
      (corner.startsWith('top') ? -1 : 1) * (aspect - side),
    ];
    const terms = termsAt(x / diagonal, y / diagonal);
    const variance = Math.max(...channels.map((one) => quadratic(one.shadeCovariance, terms)));
    const value = meanOver(shadeAt, x, y, side) - meanOver(shadeAt, 0, 0, side);
    const lens = fallOf(channels[1].lens, x / diagonal, y / diagonal);
    const uncertainty = combine([
      { source: 'fit to the scene', u: Math.sqrt(alike * variance), degreesOfFreedom: Infinity },
      { source: 'model of the fall', u: MODEL_U, degreesOfFreedom: Infinity },
      { source: 'response', u: cornerOnCurve(middles, lens, value, response), degreesOfFreedom: Infinity },
    ]);
    if (uncertainty.u95 > WIDEST_CORNER_U95) {
      withheld++;
      mostly ??= uncertainty.lines[0]?.source;
      continue;
    }
    const found = reading(value, uncertainty);
    corners[corner] = found;
    if (!darkest || found.value < darkest.value) {
      darkest = found;
      budget = uncertainty.lines;
    }
  }
  const rows = Math.round(COLUMNS * aspect);
  const grid = (of: (x: number, y: number) => number) => ({
    columns: COLUMNS,
    rows,
    stops: Array.from({ length: COLUMNS * rows }, (_, i) => {
      const x = (2 * ((i % COLUMNS) + 0.5)) / COLUMNS - 1;
      const y = ((2 * (Math.floor(i / COLUMNS) + 0.5)) / rows - 1) * aspect;
      return Math.round(1e4 * of(x, y)) / 1e4;
    }),
  });
  const shading = {
    scene: scene.patch.scene,
    ordinary: true,
    corners,
    ...(withheld === 0 && darkest ? { worst: darkest } : {}),
    profile: profileOf(shadeAt, aspect),
    budget,
    map: grid(shadeAt),
    lens: grid((x, y) => fallOf(channels[1].lens, x / diagonal, y / diagonal)),
  };
  return { shading, faults: withheld > 0 ? [cornersWithheld(scene.patch.scene, withheld, mostly)] : [] };
}

/** The lens's own fall at a place in half diagonals, stops. */
function fallOf({ terms }: SolvedFilter['channels'][number]['lens'], x: number, y: number): number {
  const r2 = x * x + y * y;
  return terms[0] * r2 + terms[1] * r2 ** 2 + terms[2] * r2 ** 3;
}

/** Green light of filtered and of bare pictures in the middle of the code, where a response was learned. */
function middleLights(
  { pictures, pairs }: OrdinaryScene,
  own: readonly number[],
  response: ResolvedResponse | null,
): readonly [filtered: number, bare: number] {
  const light = (of: 'first' | 'second') => {
    const code = median(own.map((pair) => pictures[pairs[pair][of]].meanCode[1]));
    return response ? response.decode[1](code) : 0;
  };
  return [light('first'), light('second')];
}

/** What a learned response leaves of a corner against the middle, filtered against bare, stops. */
function cornerOnCurve(
  [filtered, bare]: readonly [number, number],
  lens: number,
  corner: number,
  response: ResolvedResponse | null,
): number {
  // With the corner as it came out, and as if the filter darkened none: what the curve did may look like a corner that makes up for it.
  return Math.max(
    ...[corner, 0].map((fall) =>
      responseUOfLight(byOneCurve(response), [
        [filtered * 2 ** (lens + fall), 1],
        [filtered, -1],
        [bare * 2 ** lens, -1],
        [bare, 1],
      ]),
    ),
  );
}

/** Medians around the center over rings a twentieth of the half diagonal wide, as far as they lie in the frame. */
function profileOf(shadeAt: (x: number, y: number) => number, aspect: number): [number, number][] {
  const diagonal = Math.hypot(1, aspect);
  return Array.from({ length: 20 }, (_, i): [number, number] => {
    const r = 0.05 * (i + 0.5);
    const around = Array.from({ length: 24 }, (_angle, k) => {
      const [x, y] = [Math.cos((k * Math.PI) / 12) * r * diagonal, Math.sin((k * Math.PI) / 12) * r * diagonal];
      return Math.abs(x) <= 1 && Math.abs(y) <= aspect ? [shadeAt(x, y)] : [];
    }).flat();
    return [Math.round(1e4 * r) / 1e4, Math.round(1e4 * median(around)) / 1e4];
  }).filter(([, value]) => Number.isFinite(value));
}

/** r², r⁴, r⁶ and a tilt, in half diagonals. */
function termsAt(x: number, y: number): number[] {
  const r2 = x * x + y * y;
  return [r2, r2 * r2, r2 ** 3, x, y];
}

function quadratic(matrix: readonly (readonly number[])[], vector: readonly number[]): number {
  return vector.reduce((sum, a, i) => sum + vector.reduce((part, b, j) => part + a * b * matrix[i][j], 0), 0);
}

/** Mean over a square of side 2·`half` (half widths), in light. */
function meanOver(of: (x: number, y: number) => number, x: number, y: number, half: number): number {
  let sum = 0;
  for (let j = -2; j <= 2; j++) for (let i = -2; i <= 2; i++) sum += 2 ** of(x + 0.4 * i * half, y + 0.4 * j * half);
  return Math.log2(sum / 25);
}
