/**
 * Proposes where to measure on a bare picture: an even neutral area, slanted edges in the center and the corners, the
 * whole field of an even scene, the black and the gray of a flare scene. Each comes with a reason and a quality; what
 * can't be proposed is said too.
 */
import { cutWindow, type Picture } from '../../reading/window';
import type { Patch, Rect, Scene } from '../../session/schema';
import { measureEdge } from '../../measures/sharpness/edge';
import { commonTone, evenCells, findEvenAreas, largestPart, type EvenArea } from './evenAreas';
import { findEdges, type EdgeCandidate } from './edgeCandidates';
import { findReference, findSky } from './polarized';
import { surveyPicture, type Survey } from './survey';

export interface ProposedPatch {
  /** A name that says what and where. */
  id: string;
  role: Patch['role'];
  rect: Rect;
  /** Why here, as a sentence. */
  reason: string;
  quality: 'good' | 'fair';
}

export interface Proposals {
  patches: ProposedPatch[];
  /** What is missing and how to get it, as sentences. */
  missing: string[];
}

/** Share of cells that a wall must have even to count as filling the frame. */
const WALL_SHARE = 0.985;
const LEAST_FIELD_SHARE = 0.35;
/** Light that a black is judged even over, as a share of the bright places. */
const BLACK_PEDESTAL = 0.05;
/** From this tint on a place is a color; below the darkest share of the brightest place noise colors everything. Our own judgement. */
const COLOR_TINT = 0.5;
const DARK_SHARE = 0.02;
const MOST_COLORS = 24;
const GOOD_COLOR_PIXELS = 900;
/** Middles that are less than this share of the height apart stand in one row. */
const ROW_SHARE = 0.03;
/** Tints beyond this, log2 of red or blue over green, are colors, not grays. */
const NEUTRAL_TINT = 0.2;

/**
 * @param picture the whole bare picture, upright
 * @param tables linear light of every code, per channel
 * @param luminance weights of R, G, B in luminance
 */
export function proposePatches(
  kind: Scene['kind'],
  picture: Picture,
  tables: readonly Float64Array[],
  luminance: readonly number[],
): Proposals {
  const survey = surveyPicture(picture, tables, luminance);
  switch (kind) {
    case 'flat':
    case 'screen':
      return proposeField(survey);
    case 'flare':
      return proposeFlare(survey);
    case 'water':
    case 'sky':
      return proposePolarized(kind, survey);
    case 'outdoor':
      return {
        patches: [
          {
            id: 'frame',
            role: 'frame',
            rect: { x: 0, y: 0, width: 1, height: 1 },
            reason: 'An ordinary scene is measured as a whole.',
            quality: 'good',
          },
        ],
        missing: [],
      };
    default: {
      const neutral = proposeNeutral(survey);
      const edges = proposeEdges(survey, picture, tables, luminance);
      return {
        patches: [...neutral.patches, ...edges.patches, ...proposeColors(survey)],
        missing: [...neutral.missing, ...edges.missing],
      };
    }
  }
}

function proposeField(survey: Survey): Proposals {
  const even = largestPart(evenCells(survey), survey.columns);
  const share = even.reduce((sum, one) => sum + one, 0) / even.length;
  const rect = { x: 0, y: 0, width: 1, height: 1 };
  if (share >= WALL_SHARE)
    return {
      patches: [
        {
          id: 'field',
          role: 'field',
          rect,
          reason: 'The surface fills the frame, with no edge in it.',
          quality: 'good',
        },
      ],
      missing: [],
    };
  const inner = largestRectangle(even, survey.columns, survey.rows);
  const covered = (inner.columns * inner.rows) / even.length;
  if (covered < LEAST_FIELD_SHARE)
    return {
      patches: [],
      missing: [
        survey.clipped.some((one) => one === 1)
          ? 'No even field: parts of the picture are clipped. Shoot bare with less exposure.'
          : 'No even field: the surface covers too little of the frame. Go nearer, or out of focus.',
      ],
    };
  return {
    patches: [
      {
        id: 'field',
        role: 'field',
        rect: fractions(inner, survey),
        reason: `The surface is even over ${Math.round(100 * covered)} % of the frame; the rest shows something else, so the corners measured are those of this part.`,
        quality: 'fair',
      },
    ],
    missing: [],
  };
}

function proposeNeutral(survey: Survey): Proposals {
  const even = evenCells(survey);
  const tone = commonTone(survey, even);
  const brightest = Math.max(...survey.light);
  const area = findEvenAreas(survey, 1, (cell) => {
    const tint = Math.hypot(survey.redness[cell] - tone[0], survey.blueness[cell] - tone[1]);
    if (tint > NEUTRAL_TINT) return 0;
    return Math.sqrt(survey.light[cell] / brightest) * centrality(cell, survey);
  })[0];
  if (!area)
    return {
      patches: [],
      missing: ['No even gray area was found. Put a gray card in the middle of the chart, evenly lit.'],
    };
  const pixels = area.columns * area.rows * survey.cellPx ** 2;
  const share = area.light / brightest;
  const good = pixels >= 5000 && area.range < 0.08 && share > 0.2;
  return {
    patches: [
      {
        id: 'gray',
        role: 'neutral',
        rect: fractions(area, survey),
        reason: `Even to ${percent(area.range)} over ${Math.round(pixels / 1000)} thousand pixels, ${percent(share)} as bright as the brightest place, gray.`,
        quality: good ? 'good' : 'fair',
      },
    ],
    missing: [],
  };
}

/** Even places of a clear color, in reading order. What isn't there is no lack: a chart need not have colors. */
function proposeColors(survey: Survey): ProposedPatch[] {
  const tone = commonTone(survey, evenCells(survey));
  const brightest = Math.max(...survey.light);
  const isColored = (cell: number) =>
    Math.hypot(survey.redness[cell] - tone[0], survey.blueness[cell] - tone[1]) > COLOR_TINT &&
    survey.light[cell] > DARK_SHARE * brightest;
  const areas = findEvenAreas(survey, MOST_COLORS, (cell) => (isColored(cell) ? 1 : 0));
  // Charts stand in rows: areas whose heights overlap are one.
  const line = ({ row, rows }: EvenArea) => (row + rows / 2) * survey.cellPx;
  const ordered = [...areas].sort((a, b) => {
    const apart = line(a) - line(b);
    return Math.abs(apart) < ROW_SHARE * survey.height ? a.column - b.column : apart;
  });
  return ordered.map((area, i) => {
    const pixels = area.columns * area.rows * survey.cellPx ** 2;
    return {
      id: `color-${i + 1}`,
      role: 'color',
      rect: fractions(area, survey),
      reason: `Even to ${percent(area.range)} over ${amount(pixels)} pixels, clearly no gray: what each filter does to this color.`,
      quality: pixels >= GOOD_COLOR_PIXELS ? 'good' : 'fair',
    };
  });
}

const amount = (pixels: number) =>
  pixels < 10_000 ? String(Math.round(pixels / 100) * 100) : `${Math.round(pixels / 1000)} thousand`;

function proposeFlare(survey: Survey): Proposals {
  const brightest = [...survey.light].sort((a, b) => a - b)[Math.floor(0.98 * survey.light.length)];
  // What noise does to a black counts for nothing beside the bright: evenness is judged over a pedestal.
  const pedestal = BLACK_PEDESTAL * brightest;
  const lifted = { ...survey, light: survey.light.map((light) => light + pedestal) };
  const [found] = findEvenAreas(lifted, 1, (cell) => (brightest / (survey.light[cell] + 0.002 * brightest)) ** 1.5);
  const black = found && { ...found, light: found.light - pedestal };
  const gray = findEvenAreas(survey, 1, (cell) => Math.sqrt(survey.light[cell] / brightest))[0];
  const patches: ProposedPatch[] = [];
  const missing: string[] = [];
  if (black && black.light < 0.2 * brightest)
    patches.push({
      id: 'black',
      role: 'black',
      rect: fractions(black, survey),
      reason: `The darkest even place, ${percent(black.light / brightest)} of the bright ones: veil shows here first.`,
      quality: black.light < 0.05 * brightest ? 'good' : 'fair',
    });
  else missing.push('No black was found beside the lamp. Put a light trap or black velvet there.');
  if (gray && gray.light > 2 * (black?.light ?? 0))
    patches.push({
      id: 'gray',
      role: 'neutral',
      rect: fractions(gray, survey),
      reason: `Even to ${percent(gray.range)}: what the veil is counted against.`,
      quality: 'good',
    });
  else missing.push('No even gray was found to count the veil against. Put a gray card in the frame.');
  return { patches, missing };
}

/** A reference that doesn't shine; for skies the sky too. What reflects, a person must say. */
function proposePolarized(kind: 'water' | 'sky', survey: Survey): Proposals {
  const reference = findReference(survey);
  const sky = kind === 'sky' ? findSky(survey, 2) : [];
  const patches = [
    ...sky.map((area, i): ProposedPatch => ({
      id: i === 0 ? 'sky' : `sky-${i + 1}`,
      role: 'sky',
      rect: fractions(area, survey),
      reason: `Even to ${percent(area.range)}, bluer than the rest, in the upper part.`,
      quality: 'good',
    })),
    ...(reference
      ? [
          {
            id: 'reference',
            role: 'reference' as const,
            rect: fractions(reference, survey),
            reason: `Even to ${percent(reference.range)} and gray: check that it is matt and doesn’t mirror the sky.`,
            quality: 'fair' as const,
          },
        ]
      : []),
  ];
  const missing = [
    ...(kind === 'water'
      ? ['Draw the glare patch over the reflection itself: a program can’t tell a reflection from a bright surface.']
      : sky.length === 0
        ? ['No clear sky was found: draw the sky patch where it is evenly blue, with no cloud in it.']
        : []),
    ...(reference ? [] : ['No matt gray place was found to compare with: draw a reference that doesn’t shine.']),
  ];
  return { patches, missing };
}

type Zone = 'center' | 'top-left' | 'top-right' | 'bottom-left' | 'bottom-right';

function zoneOf(x: number, y: number): Zone | null {
  if (Math.abs(x - 0.5) < 0.3 && Math.abs(y - 0.5) < 0.28) return 'center';
  if (Math.abs(x - 0.5) < 0.25 || Math.abs(y - 0.5) < 0.18) return null;
  return `${y < 0.5 ? 'top' : 'bottom'}-${x < 0.5 ? 'left' : 'right'}`;
}

interface MeasuredCandidate {
  candidate: EdgeCandidate;
  zone: Zone;
  score: number;
  reason: string;
  good: boolean;
}

function proposeEdges(
  survey: Survey,
  picture: Picture,
  tables: readonly Float64Array[],
  luminance: readonly number[],
): Proposals {
  const refused: string[] = [];
  const usable = findEdges(survey).flatMap((candidate): MeasuredCandidate[] => {
    const zone = zoneOf(
      (candidate.x + candidate.width / 2) / survey.width,
      (candidate.y + candidate.height / 2) / survey.height,
    );
    if (!zone) return [];
    const result = measureEdge(luma(cutWindow(picture, candidate), tables, luminance));
    if ('refused' in result) {
      refused.push(result.refused);
      return [];
    }
    const { lengthPx, contrast, angleDegrees, contrastToNoise } = result;
    const room = Math.min(candidate.width, candidate.height);
    return [
      {
        candidate,
        zone,
        score:
          Math.min(1, lengthPx / 200) *
          Math.min(1, contrast / 0.6) *
          Math.min(1, room / 40) *
          Math.min(1, contrastToNoise / 15),
        reason: `${Math.round(lengthPx)} pixels long, ${angleDegrees.toFixed(1)}° off, contrast ${percent(contrast)}.`,
        good: lengthPx >= 80 && contrast >= 0.4 && room >= 30,
      },
    ];
  });
  const patches: ProposedPatch[] = [];
  for (const zone of ['center', 'top-left', 'top-right', 'bottom-left', 'bottom-right'] as const)
    for (const direction of ['upright', 'level'] as const) {
      const [best] = usable
        .filter((one) => one.zone === zone && one.candidate.direction === direction)
        .sort((a, b) => b.score - a.score);
      if (!best) continue;
      const { x, y, width, height } = best.candidate;
      patches.push({
        id: `${zone}-${direction}`,
        role: 'edge',
        rect: {
          x: x / survey.width,
          y: y / survey.height,
          width: width / survey.width,
          height: height / survey.height,
        },
        reason: best.reason,
        quality: best.good ? 'good' : 'fair',
      });
    }
  const missing: string[] = [];
  if (patches.length === 0)
    missing.push(
      refused.length > 0
        ? `Edges were found but none can be used: ${refused[0]}. Turn the chart by about five degrees.`
        : 'No slanted edge was found. A dark square on a light ground, turned by about five degrees, gives four.',
    );
  else if (!patches.some((patch) => !patch.id.startsWith('center')))
    missing.push('No edge in a corner: sharpness there can’t be told.');
  return { patches, missing };
}

function luma(window: Picture, tables: readonly Float64Array[], luminance: readonly number[]) {
  const { width, height, channels, data: codes } = window;
  const data = new Float64Array(width * height);
  const [red, green, blue] = tables;
  const [wr, wg, wb] = luminance;
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  for (let i = 0, at = 0; i < data.length; i++, at += channels)
    data[i] = wr * red[codes[at]] + wg * green[codes[at + g]] + wb * blue[codes[at + b]];
  return { width, height, data };
}

/** 1 in the middle, down to a half at the corners. */
function centrality(cell: number, { columns, rows }: Survey): number {
  const x = (cell % columns) / columns - 0.5;
  const y = Math.floor(cell / columns) / rows - 0.5;
  return 1 - 0.7 * Math.min(1, Math.hypot(x, y) / 0.71);
}

function fractions(
  { column, row, columns, rows }: Pick<EvenArea, 'column' | 'row' | 'columns' | 'rows'>,
  { cellPx, width, height }: Survey,
): Rect {
  return {
    x: (column * cellPx) / width,
    y: (row * cellPx) / height,
    width: (columns * cellPx) / width,
    height: (rows * cellPx) / height,
  };
}

/** The largest rectangle of set cells (stack of columns' heights, row by row). */
function largestRectangle(set: Uint8Array, columns: number, rows: number) {
  const heights = new Int32Array(columns + 1);
  let best = { column: 0, row: 0, columns: 0, rows: 0 };
  for (let y = 0; y < rows; y++) {
    const stack: number[] = [];
    for (let x = 0; x <= columns; x++) {
      heights[x] = x < columns && set[y * columns + x] ? heights[x] + 1 : 0;
      while (stack.length > 0 && heights[stack[stack.length - 1]] >= heights[x]) {
        const height = heights[stack.pop()!];
        const left = stack.length > 0 ? stack[stack.length - 1] + 1 : 0;
        if (height * (x - left) > best.columns * best.rows)
          best = { column: left, row: y - height + 1, columns: x - left, rows: height };
      }
      stack.push(x);
    }
  }
  return best;
}

function percent(share: number): string {
  return `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;
}
