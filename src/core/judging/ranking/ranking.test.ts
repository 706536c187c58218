import fc from 'fast-check';
import { resolveColorSpace } from '../../formulas/color/spaces';
import { DEFAULT_BANDS } from '../rating/bands';
import type { FilterReadings, Reading } from '../../session/readings';
import {
  castApart,
  coverageOf,
  evennessOf,
  honestLabel,
  standInsOf,
  stepsOf,
  type RankedFilter,
  type RankedKit,
} from './kitAsSet';
import { combineSittings } from './sittings';
import { kitsAcross, sittingKey, sittingsOf, soundSittings } from './figures';
import { drawKits, PRESETS, pricePerUseful, QUALITIES, rankDrawn, rankKits, type Weights } from './rank';
import { risingScore, scoreOf } from './score';

const SRGB = resolveColorSpace('srgb');
const at = (value: number, u95 = 0.02): Reading => ({ value, u95 });
const nd = (nominal: number, off = 0, more: Partial<RankedFilter> = {}): RankedFilter => ({
  filter: `nd${2 ** nominal}`,
  name: `ND${2 ** nominal}`,
  nominal,
  stops: at(nominal + off),
  error: at(off),
  cast: { a: at(0.2), b: at(0.3), gains: { r: 1, g: 1, b: 1 } },
  kept: at(0.98, 0.01),
  corner: at(-0.05, 0.01),
  ...more,
});
const kit = (id: string, filters: RankedFilter[], more: Partial<RankedKit> = {}): RankedKit => ({
  id,
  name: id,
  filters,
  ...more,
});
const NEUTRAL = PRESETS['neutral first'].weights;
const weights = (more: Partial<Weights> = {}): Weights => ({ ...NEUTRAL, ...more });

describe('scores', () => {
  test('100 for nothing, equal steps at the bounds, 0 as far beyond the last as that lies from the one before', () => {
    const strength = [0, 1 / 3, 2 / 3, 1, 7].map((size) => Math.round(scoreOf(size, DEFAULT_BANDS.strength)));
    expect(strength).toEqual([100, 67, 33, 0, 0]);
    expect([0, 1, 2.3, 5, 7.7].map((size) => Math.round(scoreOf(size, DEFAULT_BANDS.cast)))).toEqual([
      100, 75, 50, 25, 0,
    ]);
    expect(scoreOf(-0.4, DEFAULT_BANDS.corners)).toBe(100);
    expect([0, 3, 6, 9].map((size) => Math.round(risingScore(size, DEFAULT_BANDS.extinction)))).toEqual([
      0, 33, 67, 100,
    ]);
  });

  test('continuous over every bound, and never rising with the size', () => {
    const all = [DEFAULT_BANDS.strength, DEFAULT_BANDS.cast, DEFAULT_BANDS.sharpness, DEFAULT_BANDS.corners];
    fc.assert(
      fc.property(fc.constantFrom(...all), fc.double({ min: 0, max: 12, noNaN: true }), (bands, size) => {
        const [here, next] = [scoreOf(size, bands), scoreOf(size + 1e-6, bands)];
        expect(next).toBeLessThanOrEqual(here);
        // The steepest piece is sharpness', a third of the scale in 0.03.
        expect(here - next).toBeLessThan(2e-3);
      }),
    );
  });
});

describe('a kit as a whole', () => {
  test('merged, wide and reversed steps are only called so when no other word is possible', () => {
    const row = [nd(1), nd(2, -0.7), nd(3, 0.1), nd(4, -1.3), nd(5, 0, { stops: at(5, 0.9) })];
    expect(stepsOf(row).map(({ state }) => state)).toEqual(['merged', 'gap', 'reversed', 'unsure']);
    expect(stepsOf([nd(1), nd(2)])[0]).toMatchObject({ from: 'ND2', to: 'ND4', labelled: 1, state: 'even' });
    expect(stepsOf([nd(1), nd(1)])).toEqual([]);
  });

  test('the word of a step never claims more than its interval allows', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (found, u) => {
          const [{ state, found: step }] = stepsOf([
            nd(1, 0, { stops: at(1, 0) }),
            nd(2, 0, { stops: at(1 + found, u) }),
          ]);
          const inside = (low: number, high: number) =>
            step.value - step.u95 >= low - 1e-9 && step.value + step.u95 <= high + 1e-9;
          if (state === 'merged') expect(inside(-Infinity, 0.5)).toBe(true);
          if (state === 'gap') expect(inside(1.5, Infinity)).toBe(true);
          if (state === 'even') expect(inside(0.5, 1.5)).toBe(true);
          if (state === 'reversed') expect(inside(-Infinity, 0)).toBe(true);
        },
      ),
    );
  });

  test('one correction takes out what all filters share, and leaves what they don’t', () => {
    const tint = (r: number, b: number) => ({ a: at(2), b: at(4), gains: { r, g: 1, b } });
    const same = [nd(1, 0, { cast: tint(0.95, 1.05) }), nd(2, 0, { cast: tint(0.95, 1.05) })];
    const even = evennessOf(same, SRGB)!;
    expect(even.largest.value).toBe(0);
    expect(even.common.r).toBeCloseTo(0.95, 9);
    expect(even.residual.deltaE00).toBeLessThan(1e-6);
    const uneven = [same[0], nd(2, 0, { cast: { ...tint(0.9, 1.1), a: at(-3), b: at(8) } })];
    const found = evennessOf(uneven, SRGB)!;
    expect(found.largest.value).toBeCloseTo(castApart({ a: 2, b: 4 }, { a: -3, b: 8 }), 9);
    expect(found.largest.u95).toBeGreaterThan(0.01);
    // Half of 0.95 to 0.9 stays on each side.
    expect(found.common.r).toBeCloseTo(Math.sqrt(0.95 * 0.9), 9);
    expect(found.residual.deltaE00).toBeGreaterThan(0.9);
    expect(evennessOf([nd(1)], SRGB)).toBeNull();
  });

  test('shutters: bright sun at f/16 takes 1/ISO, and each filter its stops more; twins are named', () => {
    // The rule of sunny 16 (common practice, no source): EV 15 is f/16 at 1/128 s and ISO 100.
    const [light, dark] = coverageOf([nd(3), nd(3, 0.2, { name: 'other' })], 16);
    expect(1 / (light.bright / 2 ** 3)).toBeCloseTo(128, 6);
    expect(light.dull / light.bright).toBeCloseTo(2 ** 6, 9);
    expect(dark.sameAs).toBe('ND8');
  });

  test('stand-ins for strengths that no label has, and honest labels', () => {
    const row = [nd(3, 0.9), nd(6, -1)];
    expect(standInsOf(row)).toEqual([
      { factor: 16, filter: 'ND8', off: expect.closeTo(-0.1, 6) as number },
      { factor: 32, filter: 'ND64', off: expect.closeTo(0, 6) as number },
    ]);
    expect([nd(3, 0.9), nd(3, 0.5), nd(1, -0.95), { stops: undefined }].map((one) => honestLabel(one))).toEqual([
      'ND16',
      '3.5 stops',
      'clear',
      null,
    ]);
  });
});

describe('several sittings', () => {
  test('weighted mean and Birge ratio of the charged kaon’s mass', () => {
    // Particle Data Group, Review of Particle Physics: 493.677 ± 0.013 MeV with a scale factor of 2.4 (quoted from memory), from
    // these results; the scale is formed over those with a ± below 3 √N of the mean's.
    const results = [
      [493.696, 0.007],
      [493.636, 0.011],
      [493.67, 0.029],
      [493.657, 0.02],
      [493.691, 0.04],
    ];
    const found = combineSittings(results.map(([value, u], i) => ({ session: String(i), reading: at(value, 2 * u) })));
    expect(found.value).toBeCloseTo(493.677, 3);
    expect(found.birgeRatio).toBeCloseTo(2.4, 1);
    expect(found.range).toBeCloseTo(0.06, 9);
    expect(found.u95 / 2).toBeCloseTo(0.013, 3);
    expect(found.apart.map((one) => one.session)).toEqual(['0', '1']);
  });

  test('sittings that agree narrow the ±, one alone is as it was, none is an error', () => {
    const two = combineSittings([
      { session: 'a', reading: at(3, 0.02) },
      { session: 'b', reading: at(3, 0.02) },
    ]);
    expect(two).toMatchObject({ value: 3, u95: expect.closeTo(0.02 / Math.SQRT2, 9) as number, apart: [] });
    expect(combineSittings([{ session: 'a', reading: at(3, 0.02) }]).u95).toBeCloseTo(0.02, 9);
    expect(() => combineSittings([])).toThrow(RangeError);
  });
});

describe('sessions and kits', () => {
  const found = (filter: string, stops: number) =>
    ({
      filter,
      kit: 'k',
      nominalStops: 3,
      density: { stops: at(stops), error: at(stops - 3), byScene: [] },
      faults: [],
    }) as unknown as FilterReadings;
  const document = (id: string, name: string) => ({
    title: name,
    kits: [{ id, name, filters: [{ id: 'nd8', name: 'ND8', kind: 'nd' as const, nominal: {} }] }],
  });
  const sitting = (session: string, kitName: string, stops: number) =>
    sittingsOf(session, document('k', kitName), [found('nd8', stops), found('other', 9)]);

  test('sittings of one kit are combined, namesakes of another kit are not, and a sitting can be left out', () => {
    const all = [...sitting('a', 'One', 3), ...sitting('b', 'One', 3.1), ...sitting('c', 'Two', 5)];
    expect(all[0].readings.map((one) => one.filter)).toEqual(['nd8']);
    const kits = kitsAcross(all);
    expect(kits.map(({ name, filters }) => [name, filters[0].stops?.value])).toEqual([
      ['One', expect.closeTo(3.05, 9)],
      ['Two', 5],
    ]);
    expect(kits[0].notes.map(({ what }) => what)).toEqual(['strength']);
    const [one] = kitsAcross(all, new Set([sittingKey('b', 'nd8')]));
    expect(one.filters[0].stops?.value).toBe(3);
  });

  test('filters that soften or color on purpose are no part of a ranked kit; a kit of them alone is none', () => {
    const kit = (filters: readonly ['nd8' | 'other', 'nd' | 'diffusion' | 'color'][]) => ({
      title: 'x',
      kits: [{ id: 'k', name: 'K', filters: filters.map(([id, kind]) => ({ id, name: id, kind, nominal: {} })) }],
    });
    const readings = [found('nd8', 3), found('other', 0.1)];
    const ranked = (filters: Parameters<typeof kit>[0]) => kitsAcross(sittingsOf('s', kit(filters), readings));
    expect(
      ranked([
        ['nd8', 'nd'],
        ['other', 'diffusion'],
      ])[0].filters.map((one) => one.filter),
    ).toEqual(['nd8']);
    expect(
      ranked([
        ['nd8', 'color'],
        ['other', 'diffusion'],
      ]),
    ).toEqual([]);
  });

  test('a bench and an ordinary scene that differ by the filter’s veil don’t disagree', () => {
    const on = (role: string, stops: number, veilPercent?: number) => {
      const one = found('nd8', stops);
      return {
        ...one,
        density: { ...one.density!, stops: at(stops, 0.004), byScene: [{ role }] },
        ...(veilPercent === undefined ? {} : { flare: { veilPercent: at(veilPercent, 0) } }),
      } as unknown as FilterReadings;
    };
    const across = (bench: FilterReadings) =>
      kitsAcross([
        ...sittingsOf('bench', document('k', 'One'), [bench]),
        // 1.8 % of the light scattered: log2(1.018) = 0.0257 stop less.
        ...sittingsOf('walk', document('k', 'One'), [on('frame', 3 - 0.0257)]),
      ])[0].notes[0].combined;
    expect(across(on('neutral', 3)).apart).not.toEqual([]);
    const told = across(on('neutral', 3, 1.8));
    expect(told.apart).toEqual([]);
    // The bench, which has no veil, keeps nearly all the weight.
    expect(told.value).toBeCloseTo(3, 2);
  });

  test('figures that no longer stand are used only where a kit has no others', () => {
    const { sittings, sound } = soundSittings([
      { stale: 'changed', sittings: [...sitting('a', 'One', 4), ...sitting('a', 'Two', 6)] },
      { stale: null, sittings: sitting('b', 'One', 3) },
    ]);
    expect(kitsAcross(sittings).map(({ name, filters }) => [name, filters[0].stops?.value])).toEqual([
      ['One', 3],
      ['Two', 6],
    ]);
    expect(sound.size).toBe(1);
  });
});

describe('ranking', () => {
  const honest = kit('honest', [nd(2), nd(3), nd(4)], { price: { amount: 60, currency: 'EUR' } });
  const dark = kit('dark', [nd(2, 0.5), nd(3, 0.5), nd(4, 0.5)], { price: { amount: 30, currency: 'EUR' } });
  const green = kit('green', [
    nd(2, 0, { cast: { a: at(-6), b: at(4), gains: { r: 1.1, g: 1, b: 1.1 } } }),
    nd(3),
    nd(4),
  ]);

  test('the honest and neutral kit leads, its rank is sure, intervals hold the scores, shares add up to one', () => {
    const { kits } = rankKits([dark, green, honest], NEUTRAL, DEFAULT_BANDS, 400);
    expect(kits[0].kit.id).toBe('honest');
    for (const one of kits) {
      expect(one.interval[0]).toBeLessThanOrEqual(one.score);
      expect(one.interval[1]).toBeGreaterThanOrEqual(one.score);
      expect(one.ranks.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
    }
    expect(kits[0].ranks[0]).toBeGreaterThan(0.9);
  });

  test('a weight of a quality needs no new draws: weighed anew they rank as if drawn for it', () => {
    const drawn = drawKits([dark, green, honest], NEUTRAL, DEFAULT_BANDS, 200);
    for (const { weights: wanted } of Object.values(PRESETS))
      expect(rankDrawn(drawn, wanted)).toEqual(rankKits([dark, green, honest], wanted, DEFAULT_BANDS, 200));
  });

  test('neither the order of kits nor the unit of the price counts; the same seed gives the same shares', () => {
    const first = rankKits([dark, green, honest], NEUTRAL, DEFAULT_BANDS, 200);
    const second = rankKits([honest, dark, green], NEUTRAL, DEFAULT_BANDS, 200);
    expect(second).toEqual(first);
    const cents = [dark, honest, green].map((one) =>
      one.price ? { ...one, price: { amount: 100 * one.price.amount, currency: 'cent' } } : one,
    );
    const inCents = rankKits(cents, NEUTRAL, DEFAULT_BANDS, 200);
    expect(inCents.kits.map(({ score }) => score)).toEqual(first.kits.map(({ score }) => score));
  });

  const figures = fc.record({
    off: fc.double({ min: 0, max: 1.2, noNaN: true }),
    tint: fc.double({ min: 0, max: 8, noNaN: true }),
    kept: fc.double({ min: 0.6, max: 1, noNaN: true }),
    corner: fc.double({ min: -1, max: 0, noNaN: true }),
  });
  const made = (id: string, { off, tint, kept, corner }: { off: number; tint: number; kept: number; corner: number }) =>
    kit(
      id,
      [2, 3].map((stops) =>
        nd(stops, off, {
          cast: { a: at(tint), b: at(0), gains: { r: 1, g: 1, b: 1 } },
          kept: at(kept),
          corner: at(corner),
        }),
      ),
    );
  test('a kit that is better in every quality never ranks lower, whatever the weights', () => {
    fc.assert(
      fc.property(
        figures,
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.array(fc.integer({ min: 0, max: 10 }), { minLength: QUALITIES.length, maxLength: QUALITIES.length }),
        fc.constantFrom('left out' as const, 'as worst' as const, 'as the others' as const),
        (worse, by, counts, unmeasured) => {
          fc.pre(
            counts.some((count, i) => count > 0 && ['strength', 'cast', 'sharpness', 'corners'].includes(QUALITIES[i])),
          );
          const better = {
            off: worse.off * (1 - by),
            tint: worse.tint * (1 - by),
            kept: worse.kept + (1 - worse.kept) * by,
            corner: worse.corner * (1 - by),
          };
          const qualities = Object.fromEntries(QUALITIES.map((one, i) => [one, counts[i]])) as Weights['qualities'];
          const { kits } = rankKits(
            [made('a', worse), made('b', better)],
            weights({ qualities, unmeasured }),
            DEFAULT_BANDS,
            2,
          );
          const scoreOfKit = (id: string) => kits.find((one) => one.kit.id === id)!.score;
          expect(scoreOfKit('b')).toBeGreaterThanOrEqual(scoreOfKit('a') - 1e-9);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('what wasn’t measured is treated as chosen, and nobody is ranked by nothing', () => {
    const blank = kit('blank', [{ filter: 'x', name: 'X', nominal: 2 }]);
    const noEdge = kit('no edge', [nd(2, 0, { kept: undefined }), nd(3, 0, { kept: undefined })]);
    const soft = kit('soft', [nd(2, 0, { kept: at(0.9, 0.01) }), nd(3, 0, { kept: at(0.9, 0.01) })]);
    const order = (unmeasured: Weights['unmeasured']) =>
      rankKits([noEdge, soft, blank], weights({ unmeasured }), DEFAULT_BANDS, 2);
    expect(order('left out').kits[0].kit.id).toBe('no edge');
    expect(order('as worst').kits[0].kit.id).toBe('soft');
    expect(order('as the others').kits.map(({ score }) => Math.round(score))).toEqual(
      order('as the others').kits.map(() => Math.round(order('as the others').kits[0].score)),
    );
    expect(order('left out').unranked.map((one) => one.id)).toEqual(['blank']);
    const short = kit('short', [nd(2)]);
    const long = kit('long', [nd(2, 0.1), nd(3, 0.1)]);
    expect(rankKits([short, long], weights({ lacking: 'left out' }), DEFAULT_BANDS, 2).kits[0].kit.id).toBe('short');
    expect(rankKits([short, long], weights({ lacking: 'as worst' }), DEFAULT_BANDS, 2).kits[0].kit.id).toBe('long');
  });

  test('a weight at which the first two change places does that, and a little less doesn’t', () => {
    const { kits, swaps } = rankKits([honest, dark], NEUTRAL, DEFAULT_BANDS, 2);
    expect(kits[0].kit.id).toBe('honest');
    const [swap] = swaps;
    expect(swaps.map((one) => one.quality)).toContain('price');
    const beyond = Math.sign(swap.to - swap.from) * 0.01;
    const first = (weight: number) =>
      rankKits(
        [honest, dark],
        weights({ qualities: { ...NEUTRAL.qualities, [swap.quality]: weight } }),
        DEFAULT_BANDS,
        2,
      ).kits[0].kit.id;
    expect(first(swap.to + beyond)).toBe('dark');
    expect(first(swap.to - beyond)).toBe('honest');
  });

  test('price per useful filter counts neither twins nor what is off', () => {
    const price = { amount: 60, currency: 'EUR' };
    expect(pricePerUseful(kit('k', [nd(2), nd(3), nd(4)], { price }))).toBe(20);
    expect(pricePerUseful(kit('k', [nd(2), nd(3, -0.9), nd(4)], { price }))).toBe(30);
    expect(pricePerUseful(kit('k', [nd(2), nd(3)]))).toBeNull();
  });
});
