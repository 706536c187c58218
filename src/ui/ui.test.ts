import fc from 'fast-check';
import { dragged, nudged, overlap, rectBetween, type Grip } from '@/stages/regions/rects';
import { asPatches } from '@/stages/regions/useProposals';
import { dialPlace, layOutDial, ratioAt } from './charts/ringDial';
import { bandsOf, colorOf, contourLevels, contourStep, labelPlaces } from './charts/stopMap';
import { decimalsFor, edgeName, fixed, percent, plusMinus, signed } from './format';
import { layOutLadder, type LadderBead } from './ladder/layout';

describe('figures', () => {
  test('true minus, no negative zero', () => {
    expect(fixed(-0.8)).toBe('−0.80');
    expect(fixed(-0.001)).toBe('0.00');
    expect([NaN, null as never, Infinity].map((value) => fixed(value))).toEqual(['–', '–', '–']);
    expect(signed(0.14)).toBe('+0.14');
    expect(signed(-0.05)).toBe('−0.05');
    expect(signed(0)).toBe('0.00');
    expect(percent(0.0015, 2)).toBe('0.15 %');
  });

  test('an uncertainty never looks smaller than it is', () => {
    expect(plusMinus(0.0201)).toBe('±0.03');
    expect(plusMinus(0.02)).toBe('±0.02');
    expect(plusMinus(0.0001)).toBe('±0.01');
    expect(decimalsFor(0.004)).toBe(3);
    expect(decimalsFor(0.02)).toBe(2);
  });
});

describe('the dial of a ring', () => {
  const curve = { mean: 0.4, cosine: 0.39, sine: 0 };
  test('the brightest lies on the rim, the darkest towards the middle, a point twice', () => {
    const dial = layOutDial(curve, [{ degrees: 0, stops: -Math.log2(0.79) }], 100);
    expect(dial.axisDegrees).toBeCloseTo(0, 9);
    expect(dial.dots[0]).toMatchObject({ x: expect.closeTo(0, 6), y: expect.closeTo(-100, 6), echo: false });
    expect(dial.dots[1]).toMatchObject({ y: expect.closeTo(100, 6), echo: true });
    expect(dial.depth).toBe(7);
    expect(dial.rings[0]).toEqual({ stops: 0, radius: 100 });
  });
  test('angles run clockwise from the top', () => {
    expect(dialPlace(90, 1)).toEqual([expect.closeTo(1, 9), expect.closeTo(0, 9)]);
    expect(ratioAt(curve, 90)).toBeCloseTo(0.01, 9);
  });
});

describe('the ladder', () => {
  const bead = (name: string, label: number | null, found: number | null): LadderBead => ({
    id: name,
    name,
    labelStops: label,
    found: found === null ? null : { value: found, u95: 0.05 },
    verdict: null,
  });

  test('beads stand at what was found, threads end at the labels', () => {
    const { beads, bareX, right } = layOutLadder([bead('ND4', 2, 2.14), bead('ND64', 6, 6.3)], 1280);
    const scale = (right - bareX) / 7;
    expect(beads[0].x).toBeCloseTo(bareX + 2.14 * scale, 6);
    expect(beads[0].tickX).toBeCloseTo(bareX + 2 * scale, 6);
    expect(beads[0].bar![1] - beads[0].bar![0]).toBeCloseTo(0.1 * scale, 6);
  });

  test('unmeasured filters stand at their labels; without either they are left out', () => {
    expect(layOutLadder([bead('ND8', 3, null)], 800).beads[0].x).toBe(
      layOutLadder([bead('ND8', 3, null)], 800).beads[0].tickX,
    );
    expect(layOutLadder([bead('?', null, null)], 800).beads).toEqual([]);
  });

  test('a variable filter is a span with its marks, tied to both ends of its label; a far-off darkest leaves the rule open', () => {
    const span = { low: 2.1, high: 5.2, ticks: [2.1, 3.6, 5.2] };
    const { beads, bareX, right } = layOutLadder(
      [
        { ...bead('VND', null, null), labelSpan: [2, 5], span },
        { ...bead('PL', 1.5, 1.5), span: { low: 0.5, high: 40, ticks: [] } },
      ],
      1280,
    );
    const scale = (right - bareX) / 10;
    const variable = beads.find((one) => one.name === 'VND')!;
    expect(variable.line!.ticks).toHaveLength(3);
    expect(variable.line!.from).toBeCloseTo(bareX + 2.1 * scale, 6);
    expect(variable.threads.map(([, to]) => (to - bareX) / scale)).toEqual([
      expect.closeTo(2, 6),
      expect.closeTo(5, 6),
    ]);
    const polarizer = beads.find((one) => one.name === 'PL')!;
    expect(polarizer.line).toMatchObject({ open: true, to: right });
  });

  test('names that would collide step up a row', () => {
    const { beads } = layOutLadder(
      [bead('ND16', 4, 3.95), bead('ND32', 5, 4.1), bead('ND4', 2, 2), bead('ND64', 6, 6)],
      1280,
    );
    expect(beads.map(({ name, row }) => [name, row])).toEqual([
      ['ND4', 0],
      ['ND16', 0],
      ['ND32', 1],
      ['ND64', 0],
    ]);
  });

  test('written names never overlap or leave the page, whatever the kit; what has no room is left to pointing', () => {
    const filter = fc.tuple(fc.double({ min: 0, max: 12, noNaN: true }), fc.integer({ min: 1, max: 40 }));
    fc.assert(
      fc.property(fc.array(filter, { maxLength: 24 }), fc.integer({ min: 320, max: 1700 }), (filters, width) => {
        const { beads } = layOutLadder(
          filters.map(([stops, long], i) => bead('F'.repeat(long) + i, null, stops)),
          width,
        );
        for (const row of [0, 1]) {
          // A letter of this type is 7.4 pixels wide on average (measured in the browser).
          const boxes = beads.flatMap((one) =>
            one.written && one.row === row ? [[one.written.x, 3.7 * one.written.text.length]] : [],
          );
          boxes.forEach(([x, half], i) => {
            expect(x - half).toBeGreaterThanOrEqual(0);
            expect(x + half).toBeLessThanOrEqual(width);
            if (i > 0) expect(x - half).toBeGreaterThan(boxes[i - 1][0] + boxes[i - 1][1]);
          });
        }
      }),
    );
  });

  test('a long name is cut, a short one stays', () => {
    const { beads } = layOutLadder([bead('ND16 magnetic circular slim', 4, 4), bead('ND64', 6, 6)], 1280);
    expect(beads.map((one) => one.written?.text)).toEqual(['ND16 magnetic…', 'ND64']);
  });

  test('long rows rescale', () => {
    const { ticks, beads, right } = layOutLadder([bead('ND1000', 9.97, 10.4)], 700);
    expect(beads[0].x).toBeLessThanOrEqual(right);
    expect(ticks.filter((tick) => tick.label !== null).at(-1)!.label).toBe('11');
  });
});

describe('patches by hand', () => {
  const rect = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
  const frame = { width: 1000, height: 500 };

  test('drawn from any corner', () => {
    expect(rectBetween(0.6, 0.7, 0.2, 0.3)).toEqual({ x: 0.2, y: 0.3, width: 0.4, height: 0.4 });
    expect(rectBetween(-1, -1, 0.5, 0.5)).toEqual({ x: 0, y: 0, width: 0.5, height: 0.5 });
  });

  test('arrow keys move by a pixel, Ctrl by ten, Shift sizes', () => {
    expect(nudged(rect, 'ArrowRight', { shift: false, far: false, frame })!.x).toBeCloseTo(0.401, 9);
    expect(nudged(rect, 'ArrowUp', { shift: false, far: true, frame })!.y).toBeCloseTo(0.38, 9);
    expect(nudged(rect, 'ArrowDown', { shift: true, far: false, frame })!.height).toBeCloseTo(0.202, 9);
    expect(nudged(rect, 'a', { shift: false, far: false, frame })).toBeNull();
  });

  test('a patch stays inside the frame and keeps a size, however it is dragged', () => {
    const grips: Grip[] = ['move', 'n', 's', 'e', 'w', 'ne', 'nw', 'se', 'sw'];
    fc.assert(
      fc.property(
        fc.constantFrom(...grips),
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }),
        (grip, dx, dy) => {
          const moved = dragged(rect, grip, dx, dy);
          expect(moved.width).toBeGreaterThan(0);
          expect(moved.height).toBeGreaterThan(0);
          expect(moved.x).toBeGreaterThanOrEqual(0);
          expect(moved.y).toBeGreaterThanOrEqual(0);
          expect(moved.x + moved.width).toBeLessThanOrEqual(1 + 2e-6);
          expect(moved.y + moved.height).toBeLessThanOrEqual(1 + 2e-6);
          if (grip === 'move') expect([moved.width, moved.height]).toEqual([0.2, 0.2]);
        },
      ),
    );
  });
});

describe('maps in stops', () => {
  const bowl = {
    columns: 20,
    rows: 14,
    stops: Array.from(
      { length: 280 },
      (_, i) => -0.5 * (((i % 20) / 19 - 0.5) ** 2 + (Math.floor(i / 20) / 13 - 0.5) ** 2),
    ),
  };

  test('lines come at round steps, eight at most, and not where noise alone would draw them', () => {
    expect(contourStep(-0.25, 0)).toBe(0.05);
    expect(contourStep(-3, 0.2)).toBe(0.5);
    expect(contourLevels(-0.25, 0.004, 0.05)).toEqual([-0.25, -0.2, -0.15, -0.1, -0.05]);
    expect(contourLevels(-0.12, 0.11, 0.05)).toEqual([-0.1, -0.05, 0, 0.05, 0.1]);
  });

  test('every level has its area, the lower ones larger', () => {
    const levels = contourLevels(-0.24, 0, 0.05);
    const bands = bandsOf(bowl, levels);
    expect(bands.map((band) => band.level)).toEqual(levels);
    for (const band of bands) expect(band.path).toMatch(/^M[\d.]+ /);
    const width = (path: string) => {
      const xs = [...path.matchAll(/([\d.]+) [\d.]+/g)].map(([, x]) => Number(x));
      return Math.max(...xs) - Math.min(...xs);
    };
    expect(width(bands[0].path)).toBeGreaterThan(width(bands[bands.length - 1].path));
  });

  test('figures of lines keep their distance', () => {
    const places = labelPlaces(bowl, contourLevels(-0.24, 0, 0.02));
    expect(places.length).toBeGreaterThan(1);
    places.slice(1).forEach(({ x, y }, i) => {
      expect(Math.hypot(x - places[i].x, y - places[i].y)).toBeGreaterThan(1.6);
    });
  });

  test('colors go from pale to deep without a break, beyond the scale they stay', () => {
    const lightness = (text: string) =>
      text
        .match(/\d+/g)!
        .map(Number)
        .reduce((sum, one) => sum + one, 0);
    const row = [0, -0.1, -0.2, -0.3, -0.4, -0.5].map((stops) => lightness(colorOf(stops, -0.5)));
    row.slice(1).forEach((value, i) => expect(value).toBeLessThan(row[i]));
    expect(colorOf(-2, -0.5)).toBe(colorOf(-0.5, -0.5));
  });
});

describe('proposals', () => {
  const rect = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });

  test('overlap is shared area over joint area', () => {
    expect(overlap(rect(0, 0, 0.4, 0.4), rect(0, 0, 0.4, 0.4))).toBe(1);
    expect(overlap(rect(0, 0, 0.2, 0.2), rect(0.1, 0, 0.2, 0.2))).toBeCloseTo(1 / 3, 12);
    expect(overlap(rect(0, 0, 0.2, 0.2), rect(0.3, 0, 0.2, 0.2))).toBe(0);
  });

  test('taken ones get names that no other patch has', () => {
    const one = { id: 'gray', role: 'neutral' as const, rect: rect(0, 0, 1, 1), reason: '', quality: 'good' as const };
    const known = asPatches([one], 'chart', []);
    expect(asPatches([one, one], 'flare', known).map((patch) => patch.id)).toEqual(['gray-2', 'gray-3']);
    expect(asPatches([one], 'flare', known)[0]).toEqual({
      id: 'gray-2',
      scene: 'flare',
      role: 'neutral',
      rect: one.rect,
    });
  });
});

test.each([
  ['top-left-upright', 'top left, vertical edge'],
  ['left-level', 'left, horizontal edge'],
  ['left-level-2', 'left, horizontal edge 2'],
  ['my edge', 'my edge'],
])('the edge %s is told as “%s”', (id, words) => expect(edgeName(id)).toBe(words));
