import { levelsOf, type Pyramid } from '@/core/compare';
import { IDENTITY } from '@/core/registration';
import type { ComparedPicture, ComparedSession } from '@/app/server/compare';
import { oddsOf, outcomeOf } from './blindState';
import { compareLight } from './probe';
import { resolveColorSpace, luminanceRow } from '@/core/color';
import { levelFor, placeInCell, placeInFrame, tilesInView, type Cell, type Layer, type Room } from './scene';
import { cellsOf, FIRST_CHOICE, levellingOf, roomOf, type Shown } from './state';
import { spreadOf } from './Instruments';
import { levelWords } from './words';

const session: ComparedSession = {
  id: 'one',
  title: 'One',
  pictures: [],
  toScreen: [1, 0, 0, 0, 1, 0, 0, 0, 1],
  luminance: [0.2126, 0.7152, 0.0722],
};
const picture = (name: string, more: Partial<ComparedPicture> = {}): ComparedPicture => ({
  file: `${name}.tif`,
  sha256: name,
  take: name,
  scene: 'chart',
  filter: name === 'bare' ? null : name,
  name,
  caption: '1/100 s',
  frame: { width: 1200, height: 800 },
  response: { kind: 'srgb' },
  white: 1,
  level: { gains: [2, 2, 2], raised: 1 },
  channels: { gains: [2.1, 2, 1.9], raised: 1 },
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
    expect(levellingOf(one.picture, 'shot').gains).toEqual([1, 1, 1]);
    expect(levellingOf(one.picture, 'channels').gains).toEqual([2.1, 2, 1.9]);
    expect(levelWords(one, 'channels')).toBe('raised 1.00 stops, cast taken out');
    expect(levelWords(shown('nd8', { level: null, channels: null }), 'level')).toBe('no figure to level by, as shot');
    expect(levelWords(shown('bare'), 'level')).toBe('');
  });

  test('held bare takes the place of everything, a loupe adds two windows', () => {
    const two = [shown('bare', { level: null }), shown('nd8')];
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
