import fc from 'fast-check';
import { seededNormals } from '../../formulas/statistics/seededNormals';
import type { DensityReadings, FilterReadings, Readings } from '../../session/readings';
import { bandsTouched, DEFAULT_BANDS } from './bands';
import { either, judgeStrength } from './verdict';
import { kitFaults, labelsOffAlike } from './kitFaults';
import { writeHeadline } from '../../words/headline';

function density(value: number, u95: number, nominal: number, source = 'noise'): DensityReadings {
  const stops = { value, u95 };
  return {
    stops,
    channels: { r: stops, g: stops, b: stops },
    error: { value: value - nominal, u95 },
    byScene: [],
    budget: [{ source, u: u95 / 2, share: 1, degreesOfFreedom: null }],
  };
}

describe('guard bands (JCGM 106:2012, 8.3): one word only when the interval lies inside', () => {
  test.each([
    [0.1, 0.05, 'true'],
    [-0.3, 0.02, 'true'],
    [0.32, 0.05, 'true or close'],
    [0.5, 0.1, 'close'],
    [-0.65, 0.1, 'close or off'],
    [-0.8, 0.05, 'off'],
    [0.5, 0.3, 'true, close or off'],
    [0, 0.4, 'true or close'],
  ])('%d ± %d is %s', (value, u95, words) =>
    expect(either(bandsTouched(value, u95, DEFAULT_BANDS.strength))).toBe(words),
  );

  test('at the edge of a word’s guard band the truth lies beyond its bound in 2.3 of 100 cases', () => {
    // JCGM 106:2012, 8.3.3: a guard band as wide as U = 2u limits the specific risk of a wrong acceptance to 2.3 % (quoted from memory).
    const [bound, u95] = [1 / 3, 0.1];
    const edge = bound - u95;
    expect(bandsTouched(edge - 1e-9, u95, DEFAULT_BANDS.strength)).toEqual(['true']);
    expect(bandsTouched(edge + 1e-6, u95, DEFAULT_BANDS.strength)).toEqual(['true', 'close']);
    const normal = seededNormals(11);
    const beyond = Array.from({ length: 40_000 }, () => edge + (u95 / 2) * normal()).filter((truth) => truth > bound);
    expect(beyond.length / 40_000).toBeCloseTo(0.023, 2);
  });

  test('never claim more than the interval allows', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (value, u95, at) => {
          const inside = Math.abs(value + at * u95);
          const word = DEFAULT_BANDS.strength.find((band) => inside <= band.upTo)!.word;
          expect(bandsTouched(value, u95, DEFAULT_BANDS.strength)).toContain(word);
        },
      ),
    );
  });
});

describe('verdict on strength', () => {
  test('says what was found in a sentence', () => {
    expect(judgeStrength(density(3.46, 0.02, 3), 3, 3)).toMatchObject({
      label: 'close',
      sentence: '0.46 stop darker than its label.',
    });
    expect(judgeStrength(density(4.2, 0.02, 5), 5, 3)).toMatchObject({
      label: 'off',
      sentence: '0.80 stop lighter than its label.',
    });
  });

  test('an undecided one says how many repeats would settle it', () => {
    // 0.30 ± 0.06 reaches over 1/3: the room is 0.0333, so u95 must shrink by 1.8 and repeats grow by 3.24.
    const verdict = judgeStrength(density(3.3, 0.06, 3), 3, 3);
    expect(verdict.label).toBe('true or close');
    expect(verdict.repeatsToSettle).toBe(7);
    expect(verdict.sentence).toContain('7 more repeats would settle it');
  });

  test('says so when repeats can’t settle it', () => {
    const verdict = judgeStrength(density(3.3, 0.06, 3, 'light drift'), 3, 3);
    expect(verdict.repeatsToSettle).toBeNull();
    expect(verdict.sentence).toContain('alone would not');
  });

  test('unmarked filters and withheld figures get no rating', () => {
    expect(judgeStrength({ ...density(3, 0.01, 3), error: undefined }, null, 1).label).toBe('unrated');
    expect(judgeStrength(undefined, 3, 1).label).toBe('withheld');
  });
});

describe('kits', () => {
  const filter = (name: string, nominal: number, stops: number, u95 = 0.02) => ({
    filter: name,
    name,
    nominal,
    stops,
    u95,
    takes: [name],
  });

  test('two filters a quarter of a stop apart instead of one are merged', () => {
    const faults = kitFaults([filter('ND32', 5, 4.2), filter('ND16', 4, 3.95), filter('ND64', 6, 6.3)]);
    expect(faults.map((one) => one.fault.code)).toEqual(['steps-merged']);
    expect(faults[0].filters).toEqual(['ND16', 'ND32']);
  });

  test('a swapped pair is suspected', () => {
    const [found] = kitFaults([filter('ND8', 3, 4.01), filter('ND16', 4, 3.02)]);
    expect(found.fault.code).toBe('order-suspect');
    expect(found.fault.message).toContain('probably swapped');
  });

  test('an uncertain pair is not accused', () => {
    expect(kitFaults([filter('ND8', 3, 3.3, 0.3), filter('ND16', 4, 3.6, 0.3)])).toEqual([]);
    expect(kitFaults([filter('ND8', 3, 3.05, 0.1), filter('ND8/PL', 3, 3, 0.1)])).toEqual([]);
  });

  describe('labels that are all off by one amount', () => {
    const row = (off: readonly number[], u95 = 0.02) =>
      off.map((one, i) => filter(`ND${2 ** (2 + i)}`, 2 + i, 2 + i + one, u95));

    test('are told: the bare pictures may be at fault', () => {
      const found = labelsOffAlike(row([-0.36, -0.34, -0.37, -0.35]));
      expect(found).toMatchObject({ code: 'off-alike', severity: 'warning', takes: ['ND4', 'ND8', 'ND16', 'ND32'] });
      expect(found!.message).toContain('ND4, ND8, ND16 and ND32 come out 0.35 stop lighter than their labels');
    });

    test.each([
      ['filters that differ', row([-0.36, -0.2, -0.37])],
      ['a share of each strength', row([0.2, 0.3, 0.4, 0.5])],
      ['so little that makers do it', row([0.12, 0.13, 0.12])],
      ['two filters', row([0.3, 0.3])],
      ['three within a stop and a half', [filter('a', 3, 3.3), filter('b', 4, 4.3), filter('c', 4.5, 4.8)]],
      ['a ± that spans it', row([0.3, 0.3, 0.3], 0.4)],
    ])('not %s', (_, filters) => expect(labelsOffAlike(filters)).toBeNull());
  });
});

test('the headline tells the most telling finding', () => {
  const make = (id: string, found: number, nominal: number): FilterReadings => ({
    filter: id,
    kit: 'kit',
    nominalStops: nominal,
    density: density(found, 0.02, nominal),
    verdict: judgeStrength(density(found, 0.02, nominal), nominal, 3),
    faults: [],
  });
  const readings = (filters: FilterReadings[]) => ({ filters, faults: [] }) as unknown as Readings;
  const name = (id: string) => id.toUpperCase();
  expect(writeHeadline(readings([make('nd4', 2, 2), make('nd8', 3.01, 3)]), name).title).toBe('Both labels are true');
  expect(writeHeadline(readings([make('nd32', 5.37, 5)]), name).title).toBe('The label is close');
  expect(writeHeadline(readings([make('nd32', 5.34, 5)]), name).title).toBe('The label is true or close');
  expect(writeHeadline(readings([make('nd4', 2.3, 2), make('nd8', 3.3, 3), make('nd16', 4.5, 4)]), name).title).toBe(
    'All three are darker than they say',
  );
  expect(writeHeadline(readings([make('nd4', 2, 2), make('nd8', 3.9, 3)]), name).title).toBe('ND8 isn’t what it says');
  expect(writeHeadline(readings([make('nd4', 3.5, 2), make('nd8', 1.5, 3)]), name).title).toBe('Both labels are off');
  expect(writeHeadline(readings([make('nd4', 2.37, 2), make('nd8', 2.63, 3)]), name).title).toBe(
    'Neither label is true',
  );
  expect(writeHeadline(readings([make('nd4', 2, 2), make('nd8', 2.63, 3)]), name).title).toBe(
    'One of two labels is true',
  );
  expect(writeHeadline(readings([]), name).title).toBe('No filter in this session');
});
