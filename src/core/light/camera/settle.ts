/** What was read of pictures, set right by the curve that was learned, with what compression leaves uncertain in it. */
import type { Covariance } from '../../formulas/statistics/covariance';
import { SQUARES, type FieldStatistics, type Square } from '../../measures/shading/field';
import type { PatchStatistics, Triple } from '../../reading/patchStatistics';
import type { ReadShot } from '../../reading/readShots';
import type { Session } from '../../session/schema';
import type { TableCache } from '../decoding';
import { compressionOfCodes, stepsOf, stopsPerCode, type MeanSteps } from './compression';
import type { LearnedResponse } from './learn';
import { doubtOfLocal, isLocal, localFactors, type LocalFactors } from './localFactors';
import { medianLight } from './placeGrid';
import { PLACES_ID } from './placesWindow';
import { isOnlyTold } from './trust';

/**
 * Sets what was read of pictures right by what was learned, and adds what compression leaves uncertain in it. Pictures whose files are
 * believed and kept exactly stay as they are.
 */
export function settledShots(
  read: readonly ReadShot[],
  session: Session,
  tables: TableCache,
  learned: LearnedResponse | null,
): ReadShot[] {
  const gridOf = ({ reduced }: ReadShot) => reduced.get(PLACES_ID)?.places;
  // Of a clip one frame has them.
  const grids = new Map(
    read.flatMap((shot) => {
      const grid = gridOf(shot);
      return grid ? [[shot.take.id, grid] as const] : [];
    }),
  );
  const hasLine = session.kits.some(({ filters }) => filters.some(({ kind }) => kind === 'graduated-nd'));
  const adaptsByPlace = learned !== null && isLocal(learned.estimate);
  return read.map((shot) => {
    const steps = stepsOf(shot.facts);
    const correction =
      learned?.holdsFor(shot.facts.encoding) && isOnlyTold(shot.facts, session.rig.response)
        ? learned.correction
        : null;
    if (!steps && !correction) return shot;
    const { bitDepth } = shot.facts;
    const grid = gridOf(shot) ?? grids.get(shot.take.id);
    const pull = correction?.pullOf(shot.take.id, grid ? medianLight(grid) : learned!.estimate.middle) ?? 0;
    const correct: Correct | null = correction && ((light, channel) => correction.correct(light, channel, pull));
    const { tables: ofCodes } = tables.decodingOf(shot.facts);
    const drawn =
      adaptsByPlace && correction && grid ? localFactors(grid, learned.estimate, ofCodes, bitDepth) : () => 0;
    // A line's width and tilt are read from places whose surroundings differ; elsewhere fields are nearly even.
    const open =
      hasLine && correction && grid ? localFactors(grid, doubtOfLocal(learned!.estimate), ofCodes, bitDepth) : null;
    const slope = (code: number, c: number) => stopsPerCode(ofCodes[c], code, bitDepth);
    const reduced = new Map(
      [...shot.reduced].map(([id, { level, field, edge, places: _done, ...rest }]) => [
        id,
        {
          ...rest,
          ...(level ? { level: settledLevel(level, steps, slope, correctAt(shot, id, correct, drawn)) } : {}),
          ...(edge
            ? {
                edge: correction
                  ? { ...edge, processed: true, localTone: learned!.estimate.localSeen?.value ?? 0 }
                  : edge,
              }
            : {}),
          ...(field
            ? {
                field: {
                  ...settledField(field, steps, slope, correctAt(shot, id, correct, drawn)),
                  ...(open ? { localDoubt: doubtOver(field, shot, id, open, correct!) } : {}),
                },
              }
            : {}),
        },
      ]),
    );
    return { ...shot, reduced };
  });
}

type SlopeOfCode = (code: number, channel: number) => number;
type Correct = (light: number, channel: number) => number;
/** The same of a place, in shares of a window; the middle's where none is given. */
type CorrectAt = (light: number, channel: number, x?: number, y?: number) => number;

/** Sets light right at a place of a patch's window. */
function correctAt(
  { facts: { width, height }, places }: ReadShot,
  patch: string,
  correct: Correct | null,
  drawn: LocalFactors,
): CorrectAt | null {
  const rect = places.get(patch);
  if (!correct || !rect) return correct;
  return (light, channel, x = 0.5, y = 0.5) => {
    const local = drawn(channel, (rect.x + x * rect.width) / width, (rect.y + y * rect.height) / height);
    return correct(light * 2 ** -local, channel);
  };
}

/** Compression's covariance in stops² of the declared curve. */
function compressionOf(steps: MeanSteps, spread: Triple, code: Triple, slope: SlopeOfCode): Covariance {
  const covariance = compressionOfCodes(steps, spread);
  const slopes = [0, 1, 2].map((c) => slope(code[c], c));
  return covariance.map((value, i) => value * slopes[Math.floor(i / 3)] * slopes[i % 3]);
}

/** How much a relative change of light by the declared curve is really, by channel. */
function stretchOf(correct: Correct, mean: Triple): Triple {
  const step = 1.01;
  return mean.map((light, c) =>
    light > 0 ? Math.log(correct(light * step, c) / correct(light / step, c)) / (2 * Math.log(step)) : 1,
  ) as Triple;
}

function settledLevel(
  level: PatchStatistics,
  steps: MeanSteps | null,
  slope: SlopeOfCode,
  correct: CorrectAt | null,
): PatchStatistics {
  const told = steps
    ? { ...level, compression: compressionOf(steps, level.componentSpread ?? [0, 0, 0], level.meanCode, slope) }
    : level;
  if (!correct) return told;
  const stretch = stretchOf(correct, level.mean);
  const scaled = (values: Triple) => values.map((value, c) => value * stretch[c]) as Triple;
  return {
    ...told,
    mean: level.mean.map((light, c) => correct(light, c)) as Triple,
    zeroCorrection: scaled(level.zeroCorrection),
    pixelSpread: scaled(level.pixelSpread),
    rounding: scaled(level.rounding),
    ...(told.compression
      ? { compression: told.compression.map((value, i) => value * stretch[Math.floor(i / 3)] * stretch[i % 3]) }
      : {}),
    cells: {
      ...level.cells,
      values: level.cells.values.map((cells, c) =>
        cells.map((light) => correct(light, c)),
      ) as unknown as PatchStatistics['cells']['values'],
    },
  };
}

function settledField(
  field: FieldStatistics,
  steps: MeanSteps | null,
  slope: SlopeOfCode,
  correct: CorrectAt | null,
): FieldStatistics {
  const settled = { ...field };
  if (steps) {
    const compression = SQUARES.map((square) => [
      square,
      compressionOf(steps, field.spread[square], field.codes[square], slope),
    ]);
    settled.compression = Object.fromEntries(compression) as FieldStatistics['compression'];
  }
  if (!correct) return settled;
  const { columns, rows } = field;
  settled.cells = field.cells.map((cells, c) =>
    cells.map((light, cell) =>
      correct(light, c, ((cell % columns) + 0.5) / columns, (Math.floor(cell / columns) + 0.5) / rows),
    ),
  ) as unknown as FieldStatistics['cells'];
  const squares = SQUARES.map((square) => {
    const [x, y] = middleOf(square, field);
    return [square, field.squares[square].map((light, c) => correct(light, c, x, y))];
  });
  const rounding = SQUARES.map((square) => {
    const stretch = stretchOf(correct, field.squares[square]);
    return [square, field.rounding[square].map((value, c) => value * stretch[c])];
  });
  settled.squares = Object.fromEntries(squares) as FieldStatistics['squares'];
  settled.rounding = Object.fromEntries(rounding) as FieldStatistics['rounding'];
  return settled;
}

/** Stops of green light by which each cell departs for one standard uncertainty of local tone. */
function doubtOver(
  { columns, cells: [, green] }: FieldStatistics,
  shot: ReadShot,
  patch: string,
  open: LocalFactors,
  correct: Correct,
): Float64Array {
  const known = correctAt(shot, patch, correct, () => 0)!;
  const departed = correctAt(shot, patch, correct, open)!;
  const rows = green.length / columns;
  return green.map((light, cell) => {
    const place = [((cell % columns) + 0.5) / columns, (Math.floor(cell / columns) + 0.5) / rows] as const;
    return light > 0 ? Math.log2(departed(light, 1, ...place) / known(light, 1, ...place)) : 0;
  });
}

/** Where a square's middle lies, in shares of the field. */
function middleOf(square: Square, { width, height, squarePixels }: FieldStatistics): [number, number] {
  const [x, y] = [Math.sqrt(squarePixels) / 2 / width, Math.sqrt(squarePixels) / 2 / height];
  if (square === 'center') return [0.5, 0.5];
  return [square.endsWith('Left') ? x : 1 - x, square.startsWith('top') ? y : 1 - y];
}
