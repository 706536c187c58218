/** What to carry: the light against printed exposure tables, settings by hand, the smallest kit against trying every one. */
import { seededRandom } from '@/simulator/random';
import { whatToCarry } from './carry';
import { answers, bestOf, fewest, sweep, type Offer } from './choose';
import { hoursOfLight, skyLux, type Sky } from './daylight';
import { needsOf, problemOf, stopsThatDo, type Need, type Work } from './needs';

/** A flying camera that films at 25 frames a second and 180°, lens fixed at f/2.8, on the equator. */
const FILMING: Work = {
  name: 'Flying',
  baseIso: 100,
  highestIso: 400,
  widest: 2.8,
  narrowest: 2.8,
  target: { kind: 'clips', frameRate: 25, angle: 180 },
  tolerance: 0.25,
  latitude: 0,
  longitude: 0,
  months: [3],
  fromHour: 12,
  toHour: 13,
  skies: ['clear'],
  polarizer: false,
};

const offer = (id: string, from: number, more: Partial<Offer> = {}): Offer => ({
  id,
  name: id,
  kit: 'Kit',
  from,
  to: from,
  u95: 0.01,
  polarizes: false,
  ...more,
});

describe('the light of a year', () => {
  // Exposure tables printed with film and meters (common practice, no source): each is good to a stop or so.
  test.each([
    ['clear', 50, 15],
    ['thin cloud', 50, 14],
    ['overcast', 50, 12.5],
    ['shade', 50, 12.5],
  ] as const)('%s at %d° is about EV %d', (sky, altitude, ev) => {
    const [{ ev100 }] = [skyLux(altitude, sky)].map((lux) => ({ ev100: Math.log2(lux / 2.5) }));
    expect(Math.abs(ev100 - ev)).toBeLessThan(1);
  });

  test('every sky is dark below the horizon, grows with the sun and is the darker the thicker it is', () => {
    const skies: Sky[] = ['clear', 'thin cloud', 'overcast'];
    for (const sky of skies) expect(skyLux(-0.1, sky)).toBe(0);
    for (let altitude = 2; altitude < 90; altitude += 4) {
      for (const sky of skies) expect(skyLux(altitude + 1, sky)).toBeGreaterThan(skyLux(altitude, sky));
      const [clear, thin, overcast] = skies.map((sky) => skyLux(altitude, sky));
      expect(thin).toBeGreaterThan(overcast);
      if (altitude > 15) expect(clear).toBeGreaterThan(thin);
    }
  });

  test('on the equator twelve hours a day are light, at the polar circle none of December’s', () => {
    const year = { months: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12], fromHour: 0, toHour: 24, skies: ['clear', 'overcast'] as const }; // prettier-ignore
    const hours = hoursOfLight({ ...year, place: { latitude: 0, longitude: -70 } });
    const total = hours.reduce((sum, one) => sum + one.hours, 0);
    expect(total / 365).toBeCloseTo(12, 1);
    // By the sun: as many before its noon as after, wherever the meridian lies.
    expect(new Set(hours.map(({ hour }) => hour))).toEqual(new Set([6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17]));
    const polar = hoursOfLight({ ...year, months: [12], place: { latitude: 68, longitude: 20 } });
    expect(polar).toEqual([]);
  });
});

describe('what an hour needs', () => {
  test('EV 15 at 1/50 s, f/2.8: 6.39 stops at ISO 100; tolerance and ISO 400 widen it', () => {
    // N²/t = 2.8² · 50 = 392 = 2^8.615: what ISO 100 needs EV 8.615 for is 15 − 8.615 stops too bright.
    const needed = 15 - Math.log2(2.8 ** 2 * 50);
    const { least, most } = stopsThatDo(FILMING, 15);
    expect(least).toBeCloseTo(needed - 0.25, 6);
    expect(most).toBeCloseTo(needed + 0.25 + 2, 6);
    const closed = stopsThatDo({ ...FILMING, narrowest: 5.6, highestIso: 100 }, 15);
    expect(closed.least).toBeCloseTo(needed - 2 - 0.25, 6);
    expect(closed.most).toBeCloseTo(needed + 0.25, 6);
  });

  test('what can’t be read is told in a sentence and has no needs', () => {
    const told = (change: Partial<Work>) => problemOf({ ...FILMING, ...change });
    expect(told({})).toBeNull();
    expect(told({ months: [] })).toContain('month');
    expect(told({ skies: [] })).toContain('sky');
    expect(told({ latitude: 91 })).toContain('latitude');
    expect(told({ baseIso: NaN })).toContain('above 0');
    expect(told({ highestIso: 50 })).toContain('ISO');
    expect(told({ narrowest: 1.8 })).toContain('f-number');
    expect(told({ toHour: 12 })).toContain('ends before');
    expect(told({ target: { kind: 'stills' } })).toContain('no filter');
    expect(needsOf([{ ...FILMING, months: [] }])).toEqual([]);
  });
});

describe('the smallest kit', () => {
  const need = (least: number, most: number, more: Partial<Need> = {}): Need => ({
    work: 0,
    month: 6,
    hour: 12,
    sky: 'clear',
    ev100: 15,
    hours: 1,
    least,
    most,
    polarizer: false,
    ...more,
  });

  test('a strength that only perhaps lies in the range doesn’t answer; a variable filter’s ends reach into it', () => {
    expect(answers(offer('a', 5, { u95: 0.2 }), need(4.9, 6))).toBe(false);
    expect(answers(offer('a', 5, { u95: 0.05 }), need(4.9, 6))).toBe(true);
    expect(answers(offer('v', 1.5, { to: 5 }), need(4.9, 6))).toBe(true);
    expect(answers(offer('v', 1.5, { to: 4.8 }), need(4.9, 6))).toBe(false);
    expect(answers(offer('a', 5), need(4, 6, { polarizer: true }))).toBe(false);
    expect(answers(offer('p', 5, { polarizes: true }), need(4, 6, { polarizer: true }))).toBe(true);
  });

  /** Every set of offers, the smallest first. */
  function* sets(count: number): Generator<number[]> {
    const all = Array.from({ length: 1 << count }, (_, bits) =>
      [...Array(count).keys()].filter((i) => bits & (1 << i)),
    );
    yield* all.sort((a, b) => a.length - b.length);
  }
  const hoursOf = (set: readonly number[], needs: readonly Need[], offers: readonly Offer[]) =>
    needs.filter((one) => set.some((i) => answers(offers[i], one))).reduce((sum, { hours }) => sum + hours, 0);

  const CASES = Array.from({ length: 200 }, (_, k) => {
    const random = seededRandom(`carry ${k}`);
    const between = (from: number, to: number) => from + (to - from) * random.uniform();
    const polarizing = k % 2 === 1;
    const offers = Array.from({ length: 2 + Math.floor(7 * random.uniform()) }, (_, i) => {
      const from = between(1, 10);
      const to = random.uniform() < 0.2 ? from + between(0.5, 3) : from;
      return offer(`o${i}`, from, { to, u95: between(0, 0.1), polarizes: polarizing && random.uniform() < 0.4 });
    });
    const needs = Array.from({ length: 1 + Math.floor(14 * random.uniform()) }, () => {
      const least = between(0.5, 10);
      const polarizer = polarizing && random.uniform() < 0.3;
      return need(least, least + between(0.1, 3), { polarizer, hours: between(1, 30) });
    });
    return { offers, needs, polarizing };
  });

  test('200 small cases: as few as trying every set finds, and the sweep as few where nothing polarizes', () => {
    for (const { offers, needs, polarizing } of CASES) {
      const reached = hoursOf([...offers.keys()], needs, offers);
      const smallest = [...sets(offers.length)].find((set) => hoursOf(set, needs, offers) > reached - 1e-9)!.length;
      const exact = fewest(needs, offers);
      expect(exact.isExact).toBe(true);
      expect(hoursOf(exact.offers, needs, offers)).toBeCloseTo(reached, 9);
      expect(exact.offers).toHaveLength(smallest);
      const greedy = sweep(needs, offers);
      expect(hoursOf(greedy, needs, offers)).toBeCloseTo(reached, 9);
      if (polarizing) expect(greedy.length).toBeGreaterThanOrEqual(smallest);
      else expect(greedy).toHaveLength(smallest);
    }
  });

  test('200 small cases: no two filters answer more hours than the two that are chosen', () => {
    for (const { offers, needs } of CASES) {
      const best = Math.max(...[...sets(offers.length)].filter((set) => set.length <= 2).map((set) => hoursOf(set, needs, offers))); // prettier-ignore
      const chosen = bestOf(2, needs, offers);
      expect(chosen.offers.length).toBeLessThanOrEqual(2);
      expect(hoursOf(chosen.offers, needs, offers)).toBeCloseTo(best, 9);
    }
  });

  test('what is owned is carried anyway: only what it leaves is added', () => {
    const offers = [offer('a', 3), offer('b', 6), offer('c', 4.5)];
    const needs = [need(2.9, 4.6), need(4.4, 6.1), need(5.9, 6.2)];
    const alone = fewest(needs, offers).offers.map((i) => offers[i].id);
    expect(alone).toHaveLength(2);
    expect(alone).toContain('b');
    expect(fewest(needs, offers, [0]).offers.map((i) => offers[i].id)).toEqual(['b']);
    expect(bestOf(1, needs, offers, [0]).offers.map((i) => offers[i].id)).toEqual(['b']);
  });
});

describe('the answer', () => {
  const YEAR: Work = { ...FILMING, latitude: 50, months: [3, 6, 9, 12], fromHour: 6, toHour: 18, skies: ['clear', 'overcast'] }; // prettier-ignore
  const KIT = [1, 2, 3, 4, 5, 6, 7, 8].map((stops) => offer(`nd${2 ** stops}`, stops + 0.05));

  test('each filter adds to those before it; with bare and what falls short it makes the whole year', () => {
    const answer = whatToCarry({ works: [YEAR], most: null, owned: [] }, KIT);
    expect(answer.isExact).toBe(true);
    let covered = answer.bare;
    for (const step of answer.steps) {
      expect(step.adds).toBeGreaterThan(0);
      covered += step.adds;
      expect(step.covered).toBeCloseTo(covered, 9);
    }
    const adds = answer.steps.map((step) => step.adds);
    expect([...adds].sort((a, b) => b - a)).toEqual(adds);
    const missing = answer.shortfalls.reduce((sum, { hours }) => sum + hours, 0);
    expect(answer.covered + missing).toBeCloseTo(answer.hours, 9);
    const total = answer.grid.reduce((sum, { bare, filtered }) => sum + bare + filtered, 0);
    expect(total).toBeGreaterThan(0);
    expect(Math.max(...answer.grid.map(({ bare, filtered }) => bare + filtered))).toBeLessThanOrEqual(1);
    // A tight limit covers less, never more, and says what is left out.
    const one = whatToCarry({ works: [YEAR], most: 1, owned: [] }, KIT);
    expect(one.steps).toHaveLength(1);
    expect(one.covered).toBeLessThan(answer.covered);
    expect(one.shortfalls.some(({ lack }) => lack === 'left out')).toBe(true);
  });

  test('why an hour is not covered: dark, too weak, too strong, nothing in between', () => {
    const lacks = (works: Work[], offers: Offer[]) =>
      new Set(whatToCarry({ works, most: null, owned: [] }, offers).shortfalls.map(({ lack }) => lack));
    expect(lacks([FILMING], [offer('nd4', 2)])).toEqual(new Set(['stronger']));
    expect(lacks([FILMING], [offer('nd65536', 16)])).toEqual(new Set(['weaker']));
    expect(lacks([{ ...FILMING, highestIso: 100 }], [offer('nd4', 2), offer('nd65536', 16)])).toEqual(new Set(['between'])); // prettier-ignore
    const night: Work = { ...FILMING, latitude: 50, months: [12], fromHour: 8, toHour: 9, skies: ['overcast'], target: { kind: 'clips', frameRate: 1000, angle: 90 } }; // prettier-ignore
    expect(lacks([night], [offer('nd4', 2)])).toEqual(new Set(['dark']));
    // Without any offer at all a filter is what is missing.
    expect(lacks([FILMING], [])).toEqual(new Set(['stronger']));
  });

  test('where reflections are to be cut, bare and plain filters don’t do', () => {
    const cutting: Work = { ...FILMING, polarizer: true };
    const offers = [offer('nd128', 7.1), offer('nd128pl', 7.2, { polarizes: true })];
    const { steps, bare } = whatToCarry({ works: [cutting], most: null, owned: [] }, offers);
    expect(bare).toBe(0);
    expect(steps.map((step) => step.offer.id)).toEqual(['nd128pl']);
    // Where both do, the plain one.
    const plain = whatToCarry({ works: [FILMING], most: null, owned: [] }, [...offers].reverse());
    expect(plain.steps.map((step) => step.offer.id)).toEqual(['nd128']);
  });
});
