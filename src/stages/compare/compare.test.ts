import { levelsOf, type Pyramid } from '@/core/viewing/pyramid';
import { comparedPicture, comparedSession } from '@/ui/testing/compared';
import { IDENTITY } from '@/core/laying/align';
import type { FileEncoding } from '@/core/light/response';
import type { ComparedPicture, Film } from '@/server/compare';
import { oddsOf, outcomeOf } from './blindState';
import { compareLight } from './probe';
import { resolveColorSpace, luminanceRow } from '@/core/formulas/color/spaces';
import { levelFor, placeInCell, placeInFrame, tilesInView, type Cell, type Layer, type Room } from './scene';
import { apartAt, AT_REST, momentOf, spanOf, type Playback } from './playback';
import { cellsOf, FIRST_CHOICE, layerOf, levellingOf, roomOf } from './state';
import type { Shown } from './shown';
import { laidAt } from './useLaid';
import { spreadOf } from './Instruments';
import { disclosures, figureLines, levelWords } from './words';

const FILE: FileEncoding = { transfer: 'bt709', source: null, toXyz: null, profile: null };
const session = {
  ...comparedSession,
  kits: [{ name: 'Six', filters: ['nd8'], disclosure: 'lent for the review' }],
};
const picture = (name: string, more: Partial<ComparedPicture> = {}) =>
  comparedPicture(name, {
    take: name,
    strength: name === 'bare' ? { stops: 0, channels: null } : { stops: 1, channels: { r: 1.05, g: 1, b: 0.95 } },
    exposures: [{ from: 0, log2: 3 }],
    found: { stops: 1, deltaE00: 2, kept: 0.95 },
    ...more,
  });
const shown = (name: string, more: Partial<ComparedPicture> = {}): Shown => ({
  picture: picture(name, more),
  bare: picture('bare'),
  session,
});

const layer: Layer = {
  key: { sha256: 'a', response: { kind: 'srgb' } },
  film: null,
  passing: false,
  frame: { width: 1200, height: 800 },
  pose: { dx: 3.5, dy: -2, a: 0.01, b: 0.02 },
  gains: [1, 1, 1],
  white: 1,
  toScreen: session.toScreen,
  luminance: session.luminance,
};
const room: Room = {
  width: 600,
  height: 400,
  cells: [],
  view: { x: 700, y: 300, scale: 2 },
  frame: { width: 1200, height: 800 },
  wipe: FIRST_CHOICE.wipe,
  gray: 0.2,
  gamut: 'srgb',
  marks: false,
};
const cell: Cell = { x: 0, y: 0, width: 600, height: 400, mode: 'single', a: layer, b: null };

describe('where pixels lie', () => {
  test('to the cell and back, through a pose, another size and a loupe', () => {
    for (const own of [layer, { ...layer, frame: { width: 2400, height: 1600 } }])
      for (const place of [cell, { ...cell, view: { x: 100, y: 90, scale: 4 } }]) {
        const [x, y] = placeInFrame(123, 77, own, room, place);
        const [px, py] = placeInCell(x, y, own, room, place);
        expect(px).toBeCloseTo(123, 8);
        expect(py).toBeCloseTo(77, 8);
      }
  });

  test('without a pose the view’s point is in the middle, and pixels are as large as the scale', () => {
    const plain = { ...layer, pose: IDENTITY };
    expect(placeInCell(700, 300, plain, room, cell)).toEqual([300, 200]);
    expect(placeInCell(701, 300, plain, room, cell)).toEqual([302, 200]);
  });

  test('tiles in view cover the cell, and none beyond the picture', () => {
    const levels = levelsOf(1200, 800, 3, 0);
    const plain = { ...layer, pose: IDENTITY };
    const tiles = tilesInView(0, levels[0], plain, room, cell);
    // 300 × 200 own pixels around (700, 300): columns 550–850, rows 200–400.
    expect(tiles.map(({ column, row }) => [column, row])).toEqual([
      [2, 0],
      [3, 0],
      [2, 1],
      [3, 1],
    ]);
    const whole = { ...room, view: { x: 600, y: 400, scale: 0.5 } };
    const all = tilesInView(0, levels[0], plain, whole, cell);
    expect(all).toHaveLength(levels[0].columns * levels[0].rows);
    const last = all[all.length - 1];
    expect(last.corners[3]).toEqual([600, 400]);
    expect([last.u, last.v]).toEqual([(1200 - 4 * 256) / 256, (800 - 3 * 256) / 256]);
  });

  test('a level is no finer than the screen needs', () => {
    const pyramid = { levels: levelsOf(4096, 4096, 1, 0) } as Pyramid;
    expect([0.3, 1, 1.9, 2, 7.9, 8, 1000].map((pixels) => levelFor(pyramid, pixels))).toEqual([0, 0, 0, 1, 2, 3, 4]);
  });
});

describe('what is shown', () => {
  test('two pictures share a wipe’s cell, others have cells of their own without overlap', () => {
    const canvas = { width: 1000, height: 600 };
    expect(cellsOf('wipe', 1, canvas, 1)).toHaveLength(1);
    for (const layout of ['side', 'stack', 'tiles'] as const)
      for (const count of [2, 3, 5, 6]) {
        const cells = cellsOf(layout, count, canvas, 2);
        expect(cells).toHaveLength(count);
        for (const [i, a] of cells.entries()) {
          expect(a.x + a.width).toBeLessThanOrEqual(1000);
          expect(a.y + a.height).toBeLessThanOrEqual(600);
          for (const b of cells.slice(i + 1))
            expect(a.x + a.width < b.x || b.x + b.width < a.x || a.y + a.height < b.y || b.y + b.height < a.y).toBe(
              true,
            );
        }
      }
  });

  test('as shot nothing is raised, what isn’t measured neither, and its words say so', () => {
    const one = shown('nd8');
    expect(levellingOf(one, 'shot')).toBeNull();
    expect(levellingOf(one, 'channels')!.gains).toEqual([2.1, 2, 1.9]);
    expect(levelWords(one, 'channels')).toBe('raised 1.00 stops, cast taken out');
    expect(levelWords(shown('nd8', { strength: null }), 'level')).toBe('no figure to level by, as shot');
    expect(levelWords(shown('nd8', { exposures: [] }), 'level')).toBe('no figure to level by, as shot');
    expect(levelWords(shown('bare'), 'level')).toBe('');
  });

  test('figures and how a kit was obtained, once each, for pictures that are taken away', () => {
    expect(figureLines([shown('bare', { found: null }), shown('nd8'), shown('nd8')])).toEqual([
      'nd8: 1.00 stops, cast ΔE00 2.0, sharpness kept 95 %',
    ]);
    expect(disclosures([shown('bare'), shown('nd8')])).toEqual(['Six: lent for the review']);
    const unsaid = { ...session, kits: [{ name: 'Six', filters: ['nd8'], disclosure: null }] };
    expect(disclosures([{ ...shown('nd8'), session: unsaid }])).toEqual(['Six: how it was obtained isn’t noted']);
  });

  test('held bare takes the place of everything, a loupe adds two windows', () => {
    const two = [shown('bare'), shown('nd8')];
    const canvas = { width: 1000, height: 600 };
    const held = roomOf({ ...FIRST_CHOICE, bare: true }, two, new Map(), canvas, 1)!;
    expect(held.cells).toHaveLength(1);
    expect(held.cells[0].b).toBeNull();
    const loupe = roomOf({ ...FIRST_CHOICE, loupe: true }, two, new Map(), canvas, 1, { x: 5, y: 6 })!;
    expect(loupe.cells).toHaveLength(3);
    expect(loupe.cells[2].a.key.sha256).toBe('nd8');
    expect(roomOf(FIRST_CHOICE, [], new Map(), canvas, 1)).toBeNull();
  });
});

describe('figures', () => {
  test('a place a half stop brighter and of bare’s color', () => {
    const space = resolveColorSpace('srgb');
    const found = compareLight(
      [0.1, 0.2, 0.3],
      [0.1, 0.2, 0.3].map((one) => one * Math.SQRT2),
      luminanceRow(space),
      space,
    )!;
    expect(found.stops).toBeCloseTo(0.5, 10);
    expect(found.deltaE00).toBeCloseTo(0, 6);
    expect(found.direction).toBe('neutral');
    expect(compareLight([0, 1, 1], [1, 1, 1], luminanceRow(space), space)).toBeNull();
  });

  test('a histogram counts what is shown: half at black, half at white', () => {
    const { bins, white, black } = spreadOf(Float32Array.from([0, 0, 0, 0.6, 0.6, 0.6]), [2, 2, 2], 1);
    expect(bins.map((one) => [one[0], one[63]])).toEqual([
      [1, 1],
      [1, 1],
      [1, 1],
    ]);
    expect([white, black]).toEqual([0.5, 0.5]);
  });
});

describe('blind', () => {
  const order = [
    shown('nd8', { found: { stops: 3, deltaE00: 4, kept: 0.9 } }),
    shown('bare'),
    shown('nd4', { found: { stops: 2, deltaE00: 1, kept: 0.99 } }),
  ];

  test('votes beside what was measured; bare is neutral and sharp', () => {
    const right = outcomeOf({ order, votes: { neutral: 1, sharpest: 1, ranks: [1, 2, 0] } });
    expect(right).toMatchObject({ neutral: true, sharpest: true, chance: 1 / 3, rank: { tau: 1 } });
    expect(right.rank!.odds).toBeCloseTo(1 / 6, 12);
    const wrong = outcomeOf({ order, votes: { neutral: 0, sharpest: null, ranks: [1] } });
    expect(wrong).toMatchObject({ neutral: false, sharpest: null, rank: null });
    // Two hits of three at a third each: 3·(1/9)·(2/3) + 1/27 = 7/27.
    expect(oddsOf([right, wrong])).toEqual({ hits: 2, trials: 3, odds: expect.closeTo(7 / 27, 12) as number });
    expect(oddsOf([])).toBeNull();
  });

  test('what wasn’t measured settles no vote', () => {
    const open = [order[0], shown('unmarked', { found: null })];
    expect(outcomeOf({ order: open, votes: { neutral: 0, sharpest: 0, ranks: [0, 1] } })).toMatchObject({
      neutral: null,
      sharpest: null,
      rank: null,
    });
  });
});

describe('clips in step', () => {
  const film = { seconds: 10, framesPerSecond: 25, from: 1, to: 9, encoding: FILE, steps: null };
  const bare = picture('bare', { film });
  const clip = (more: Partial<Film> = {}, exposures = [{ from: 0, log2: 3 }]): Shown => ({
    ...shown('nd8', { film: { ...film, from: 3, ...more }, exposures }),
    bare,
  });
  const at = (moment: number | null, more: Partial<Playback> = {}): Playback => ({ ...AT_REST, moment, ...more });

  test('by time from the start of each span, by place where telemetry tells it, shifted by hand, inside the clip', () => {
    const steps = [
      { seconds: 0, other: 2, apart: 1 },
      { seconds: 10, other: 7, apart: 3 },
    ];
    expect(momentOf(clip(), at(2))).toBe(4);
    expect(momentOf(clip({ steps }), at(2))).toBe(3);
    expect(momentOf(clip({ steps }), at(2, { byRoute: false }))).toBe(4);
    expect(momentOf(clip(), at(2, { shifts: { nd8: -0.2 } }))).toBeCloseTo(3.8);
    expect(momentOf(clip(), at(9.5))).toBeCloseTo(10 - 1 / 25);
    expect(momentOf({ ...clip(), picture: bare }, at(2))).toBe(2);
    expect(momentOf(clip(), at(null))).toBeNull();
    expect(momentOf(shown('nd8'), at(2))).toBeNull();
    expect(apartAt(clip({ steps }), at(5))).toBe(2);
  });

  test('the time line is bare’s; without a bare clip the longest one’s; without clips there is none', () => {
    expect(spanOf([{ ...clip(), picture: bare }, clip()])).toMatchObject({ from: 1, to: 9 });
    expect(spanOf([shown('bare'), { ...clip(), bare: null }])).toMatchObject({ from: 0, to: 6 });
    expect(spanOf([shown('bare'), shown('nd8')])).toBeNull();
  });

  test('a clip is levelled by the exposure of the moment that is shown', () => {
    const exposures = [
      { from: 0, log2: 3 },
      { from: 4, log2: 5 },
    ];
    expect(levellingOf(clip({}, exposures), 'level', at(1.5))!.raised).toBe(1);
    expect(levellingOf(clip({}, exposures), 'level', at(2.5))!.raised).toBe(-1);
  });

  test('how it lies is told by its moment, evenly between two, and alone where one couldn’t be laid', () => {
    const laid = (dx: number, problem: string | null = null) => ({ pose: { ...IDENTITY, dx }, problem, movedPx: dx });
    const known = [
      { at: null, laid: laid(9) },
      { at: 1, laid: laid(2) },
      { at: 2, laid: laid(4) },
      { at: 3, laid: laid(0, 'elsewhere') },
    ];
    expect(laidAt(known, null)!.pose.dx).toBe(9);
    expect(laidAt(known, 1.25)!.pose.dx).toBe(2.5);
    expect(laidAt(known, 2.7)!.problem).toBe('elsewhere');
    expect(laidAt(known, 2.2)!.pose.dx).toBe(4);
    expect(laidAt(known, 50)!.problem).toBe('elsewhere');
    expect(laidAt([], 1)).toBeNull();
  });

  test('a passing frame stands in with its own codes made light', () => {
    const frame = { id: 'x', picture: {} as ImageBitmap };
    const playback = at(2, { moving: true, frame: () => frame });
    const layer = layerOf(
      { ...clip(), picture: { ...clip().picture, response: { kind: 'file' } } },
      'shot',
      new Map(),
      playback,
      'display-p3',
    );
    expect(layer).toMatchObject({ passing: true, film: { id: 'x' }, key: { at: 4 } });
    // BT.709's own curve at half its signal: 0.2595 (ITU-R BT.709-6, inverse of 1.2).
    expect(layer.film!.curves[1][128]).toBeCloseTo(((128 / 255 + 0.099) / 1.099) ** (1 / 0.45), 5);
    // sRGB's red in Display P3, of its published matrix (quoted from memory): 0.8225, 0.0332, 0.0171.
    expect([0, 3, 6].map((i) => Number(layer.toScreen[i].toFixed(3)))).toEqual([0.822, 0.033, 0.017]);
    expect(layerOf(shown('nd8'), 'shot', new Map(), playback).film).toBeNull();
  });
});
