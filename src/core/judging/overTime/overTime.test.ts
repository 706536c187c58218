/** Change over the years and the control chart, against published examples and by hand. */
import { changeOf, meanOf, stepAt, withoutBench, type Moment } from './change';
import { controlChart, LEAST_RESULTS } from './controlChart';
import { controlOf, livesOf, TOGETHER, type DatedSitting } from './lives';
import { productsOf } from './samples';

const at = (years: number, value: number, u95 = 0.02): Moment => ({ at: years, reading: { value, u95 } });

/** NIST Statistical Reference Datasets, “Norris” (linear regression, 36 results; data quoted from memory, and they give the certified figures): y, x. */
const NORRIS = [
  [0.1, 0.2], [338.8, 337.4], [118.1, 118.2], [888.0, 884.6], [9.2, 10.1], [228.1, 226.5], [668.5, 666.3], [998.5, 996.3], [449.1, 448.6],
  [778.9, 777.0], [559.2, 558.2], [0.3, 0.4], [0.1, 0.6], [778.1, 775.5], [668.8, 666.9], [339.3, 338.0], [448.9, 447.5], [10.8, 11.6],
  [557.7, 556.0], [228.3, 228.1], [998.0, 995.8], [888.8, 887.6], [119.6, 120.2], [0.3, 0.3], [0.6, 0.3], [557.6, 556.8], [339.3, 339.1],
  [888.0, 887.2], [998.5, 999.0], [778.9, 779.0], [10.2, 11.1], [117.6, 118.3], [228.9, 229.2], [668.4, 669.1], [449.2, 448.9], [0.2, 0.5],
] as const; // prettier-ignore

describe('change over the years', () => {
  test('NIST’s Norris data: certified slope 1.00211681802045, its deviation 0.000429796848199937', () => {
    const change = changeOf(
      NORRIS.map(([y, x]) => at(x, y, 0.2)),
      1,
    )!;
    expect(change.perYear!.value).toBeCloseTo(1.00211681802045, 11);
    // Student’s t for 95.45 % at 34 degrees of freedom (JCGM 100 table G.2 has 2.09 at 35).
    expect(change.perYear!.u95 / 0.000429796848199937).toBeCloseTo(2.08, 1);
    // Certified residual deviation over the u that was said, 0.1.
    expect(change.birgeRatio).toBeCloseTo(8.84796396144373, 8);
  });

  test('three sittings on a line, by hand', () => {
    const change = changeOf([at(0, 3, 0.2), at(1, 3.1, 0.2), at(2, 3.2, 0.2)], 0.1)!;
    expect(change.perYear!.value).toBeCloseTo(0.1, 12);
    // u = 0.1/√2 a year.
    expect(change.perYear!.u95).toBeCloseTo(0.2 / Math.SQRT2, 12);
    expect(change.over.value).toBeCloseTo(0.2, 12);
    expect(change.first.value).toBeCloseTo(3, 12);
    expect(change.last.value).toBeCloseTo(3.2, 12);
    // At the ends the line is known to u²(1/3 + 1/2).
    expect(change.last.u95).toBeCloseTo(0.2 * Math.sqrt(5 / 6), 12);
  });

  test.each([
    ['changed', [0, 0.08, 0.16]],
    ['perhaps changed', [0, 0.017, 0.034]],
    ['steady', [0, 0.004, -0.002]],
  ] as const)('a figure is called %s', (word, values) => {
    const moments = values.map((value, i) => at(i, value));
    expect(changeOf(moments, 0.1)!.word).toBe(word);
  });

  test('what is too uncertain to exclude a change is open', () => {
    expect(changeOf([at(0, 0, 0.3), at(1, 0.05, 0.3)], 0.1)!.word).toBe('open');
  });

  test('sittings that scatter by more than their ± widen it, by Student’s t too', () => {
    const scattered = [0, 0.1, -0.1, 0.1, 0].map((value, i) => at(i, value));
    const [change, quiet] = [
      changeOf(scattered, 0.1)!,
      changeOf(
        scattered.map((one) => at(one.at, 0)),
        0.1,
      )!,
    ];
    expect(change.birgeRatio).toBeGreaterThan(5);
    // t(3) for 95.45 % is 3.31 (JCGM 100, table G.2).
    expect(change.over.u95 / quiet.over.u95).toBeCloseTo((change.birgeRatio * 3.31) / 2, 1);
  });

  test('no rate from sittings of one season, nothing from one day', () => {
    expect(changeOf([at(0, 1), at(0.2, 1.1)], 0.1)!.perYear).toBeUndefined();
    expect(changeOf([at(1, 1), at(1, 1.1)], 0.1)).toBeNull();
    expect(changeOf([at(1, 1)], 0.1)).toBeNull();
  });

  test('a fall on the floor is a step from the sitting before it to the next', () => {
    const moments = [at(1, 3.2), at(0, 3), at(1.5, 3.19), at(0.5, 3.01)];
    const step = stepAt(moments, 0.8, 0)!;
    expect(step.value).toBeCloseTo(0.19, 12);
    expect(step.u95).toBeCloseTo(0.02 * Math.SQRT2, 12);
    // Sittings that scatter three times as far as their ± say make it three times as uncertain.
    expect(stepAt(moments, 0.8, 3)!.u95).toBeCloseTo(0.06 * Math.SQRT2, 12);
    expect(stepAt(moments, 9, 0)).toBeNull();
    expect(stepAt(moments, 0, 0)).toBeNull();
    expect(meanOf([])).toBeNull();
  });

  test('a bench that reads everything a tenth lighter is taken out by its control filter', () => {
    const filter = [3, 2.9, 3].map((value, i) => ({ ...at(i, value), session: `s${i}` }));
    const control = new Map([4, 3.9, 4].map((value, i) => [`s${i}`, at(i, value)]));
    const left = withoutBench(filter, control);
    const values = left.map(({ reading }) => reading.value);
    expect(Math.max(...values) - Math.min(...values)).toBeCloseTo(0, 12);
    expect(left[0].reading.u95).toBeCloseTo(0.02 * Math.SQRT2, 12);
    control.delete('s1');
    expect(withoutBench(filter, control).map(({ session }) => session)).toEqual(['s0', 's2']);
    expect(withoutBench(filter, new Map())).toEqual([]);
  });
});

describe('the bench’s control chart', () => {
  // NIST/SEMATECH e-Handbook 6.3.2.2 (quoted from memory): flow rates of ten batches.
  const FLOW = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];

  test('the handbook’s limits: 50.81, 45.8159 to 55.8041, and nothing told', () => {
    const { center, lower, upper, ranges, signals } = controlChart(FLOW)!;
    expect(center).toBeCloseTo(50.81, 9);
    expect(ranges.reduce((sum, one) => sum + one, 0) / 9).toBeCloseTo(1.8778, 4);
    expect(lower).toBeCloseTo(45.8159, 4);
    expect(upper).toBeCloseTo(55.8041, 4);
    expect(signals).toEqual([]);
  });

  // By hand: mean range and center as written, so that σ = 1 and 0 is the middle.
  const scaled = (z: readonly number[]) => {
    const ranges = z.slice(1).map((one, i) => Math.abs(one - z[i]));
    const [center, sigma] = [z.reduce((a, b) => a + b) / z.length, ranges.reduce((a, b) => a + b) / ranges.length / 1.128]; // prettier-ignore
    return z.map((one) => (one - center) / sigma);
  };

  test('Western Electric’s rules tell what they say, and no more', () => {
    const jump = [0, 1, -1, 0.5, -0.5, 1, -1, 0, 0.5, -0.5, 0.3, 9];
    expect(scaled(jump)[11]).toBeGreaterThan(3);
    expect(controlChart(jump)!.signals).toContainEqual({ rule: 'beyond 3σ', side: 'above', from: 11, to: 11 });
    const drifted = [1, 2, 1, 2, 1, 2, 1, 2, -1, -2, -1, -2, -1, -2, -1, -2];
    const { signals } = controlChart(drifted)!;
    expect(signals).toContainEqual({ rule: '8 on one side', side: 'above', from: 0, to: 7 });
    expect(signals).toContainEqual({ rule: '8 on one side', side: 'below', from: 8, to: 15 });
    // Two of three beyond 2σ: every second one lies there (by hand: |z| is in turn 0.85 and 1.69 of the mean range over 1.128).
    expect(signals.map(({ rule }) => rule)).not.toContain('beyond 3σ');
  });

  test('a bench that jumped by far is told once a side', () => {
    // Mean range 1/7·9.4 = 1.343, σ = 1.19; the middle is 4.6, so that all lie beyond 3σ.
    const jumped = [0, 0.1, 0, 0.1, 9.1, 9, 9.1, 9];
    const { signals, sigma, center } = controlChart(jumped)!;
    expect(sigma).toBeCloseTo((0.1 * 3 + 9 + 0.1 * 3) / 7 / 1.128, 9);
    expect(center).toBeCloseTo(4.55, 9);
    expect(signals).toEqual([
      { rule: 'beyond 3σ', side: 'above', from: 4, to: 7 },
      { rule: 'beyond 3σ', side: 'below', from: 0, to: 3 },
    ]);
  });

  test('too few results, or results that are all alike, give no limits', () => {
    expect(controlChart(FLOW.slice(0, LEAST_RESULTS - 1))).toBeNull();
    expect(controlChart([1, 1, 1, 1, 1, 1, 1])).toBeNull();
  });
});

describe('lives of a kit’s filters', () => {
  const DAY = Date.UTC(2024, 0, 1);
  const HALF_YEAR = 182.625 * 24 * 3600 * 1000;
  const sitting = (
    i: number,
    stops: Record<string, number>,
    day: number | null = DAY + i * HALF_YEAR,
  ): DatedSitting => ({
    session: `s${i}`,
    title: `Sitting ${i}`,
    day,
    kit: {
      id: 'set',
      name: 'Set',
      filters: Object.keys(stops).map((id) => ({ id, name: id.toUpperCase(), kind: 'nd', nominal: {} })),
    } as DatedSitting['kit'],
    readings: Object.entries(stops).map(([filter, value]) => ({
      filter,
      density: { stops: { value, u95: 0.01 } },
    })) as unknown as DatedSitting['readings'],
  });

  test('every filter has its sittings in the order of their days, and those without a day are named', () => {
    const sittings = [sitting(2, { a: 3.2, b: 5 }), sitting(0, { a: 3, b: 5 }), sitting(1, { a: 3.1, b: 5 }), sitting(9, { a: 9 }, null)]; // prettier-ignore
    const [lives] = livesOf(sittings, 'strength');
    expect(lives.name).toBe('Set');
    expect(lives.undated).toEqual([{ id: 's9', title: 'Sitting 9' }]);
    const [a, b] = lives.filters;
    expect(a.points.map(({ session }) => session)).toEqual(['s0', 's1', 's2']);
    expect(a.change!.perYear!.value).toBeCloseTo(0.2, 9);
    expect([a.change!.word, b.change!.word]).toEqual(['changed', 'steady']);
    expect(livesOf(sittings, 'sharpness kept')[0].filters).toEqual([]);
  });

  test('one that was replaced begins anew; what happened to it is told with its step', () => {
    const sittings = [0, 1, 2, 3, 4].map((i) => sitting(i, { a: [9, 3, 3, 3.5, 3.5][i] }));
    const day = (i: number) => new Date(DAY + (i - 0.5) * HALF_YEAR).toISOString().slice(0, 10);
    const events = [
      { date: day(3), what: 'dropped' },
      { date: day(1), what: 'replaced' },
    ];
    for (const { kit } of sittings) Object.assign(kit.filters[0], { events });
    const [{ filters }] = livesOf(sittings, 'strength');
    expect(filters[0].points.map(({ session }) => session)).toEqual(['s1', 's2', 's3', 's4']);
    expect(filters[0].earlier).toBe(1);
    expect(filters[0].events).toHaveLength(1);
    expect(filters[0].events[0]).toMatchObject({ what: 'dropped', date: day(3) });
    expect(filters[0].events[0].step!.value).toBeCloseTo(0.5, 12);
    // By hand: the line through 3, 3, 3.5, 3.5 at ±0.01 leaves 0.05, −0.15, 0.15, −0.05 at u = 0.005, for two degrees of freedom.
    expect(filters[0].change!.birgeRatio).toBeCloseTo(Math.sqrt(0.05 / 0.005 ** 2 / 2), 6);
    expect(filters[0].events[0].step!.u95).toBeCloseTo(0.01 * Math.SQRT2 * filters[0].change!.birgeRatio, 9);
  });

  test('with a control filter the others are told without what the bench did, and it itself as it was', () => {
    const sittings = [0, 1, 2].map((i) => sitting(i, { a: 3 + 0.1 * i, control: 5 + 0.1 * i }));
    const control = controlOf(livesOf(sittings, 'strength')[0], 'control');
    const [{ filters }] = livesOf(sittings, 'strength', control);
    expect(filters.find(({ filter }) => filter === 'a')!.change!.over.value).toBeCloseTo(0, 9);
    expect(filters.find(({ filter }) => filter === 'control')!.change!.over.value).toBeCloseTo(0.2, 9);
  });

  test('what most filters do together is the bench’s: by hand, the median of how far each lies from its own mean', () => {
    // The bench is 0.06 up in the last sitting; c fades by 0.3 a sitting.
    const moved = [0, 0, 0.06];
    const sittings = moved.map((off, i) => sitting(i, { a: 3 + off, b: 5 + off, c: 6 - 0.3 * i + off }));
    const [plain] = livesOf(sittings, 'strength');
    const together = controlOf(plain, TOGETHER)!;
    // a and b lie −0.02, −0.02, +0.04 from their means; c lies 0.28, −0.02, −0.26.
    const values = together.points.map(({ reading }) => reading.value);
    [-0.02, -0.02, 0.04].forEach((one, i) => expect(values[i]).toBeCloseTo(one, 12));
    const [{ filters }] = livesOf(sittings, 'strength', together);
    expect(filters.map(({ change }) => change!.word)).toEqual(['steady', 'steady', 'changed']);
    expect(filters[2].change!.over.value).toBeCloseTo(-0.6, 9);
    // Of two filters nobody can say which one moved.
    expect(controlOf(livesOf([0, 1].map((i) => sitting(i, { a: 3, b: 5 + i })), 'strength')[0], TOGETHER)).toBeNull(); // prettier-ignore
    expect(controlOf(plain, 'nobody')).toBeNull();
  });

  test('one that fades doesn’t lean on what the others tell: noise of two and a filter far to one side', () => {
    // By hand: with c far above, a median is the larger of a and b, far below the smaller; their mean is what they tell.
    const noise = [0.004, -0.004, 0.004, -0.004];
    const sittings = noise.map((off, i) => sitting(i, { a: 3 + off, b: 5 - off, c: 7.5 - i }));
    const together = controlOf(livesOf(sittings, 'strength')[0], TOGETHER)!;
    for (const { reading } of together.points) expect(reading.value).toBeCloseTo(0, 12);
  });
});

describe('samples of one product', () => {
  const DAY = 24 * 3600 * 1000;
  const sat = (
    session: string,
    day: number | null,
    stops: number,
    kit: object = {},
    filter: object = {},
  ): DatedSitting =>
    ({
      session,
      title: session,
      day: day === null ? null : day * DAY,
      kit: {
        id: 'three',
        name: 'Three',
        filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: {}, ...filter }],
        ...kit,
      },
      readings: [{ filter: 'nd8', density: { stops: { value: stops, u95: 0.01 } } }],
    }) as unknown as DatedSitting;

  test('by serial number, by kit, and by when it was replaced', () => {
    const serials = [
      sat('a', 1, 3, {}, { serial: 'A' }),
      sat('b', 2, 3.1, {}, { serial: ' B ' }),
      sat('c', 3, 3.02, {}, { serial: 'A' }),
    ];
    const [{ samples }] = productsOf(serials, 'Three', 'strength');
    expect(samples.map(({ serial, sittings }) => [serial, sittings])).toEqual([['A', 2], ['B', 1]]); // prettier-ignore
    expect(samples[0].reading.value).toBeCloseTo(3.01, 9);
    const events = [{ date: '1970-01-04', what: 'replaced' }];
    const replaced = [sat('a', 1, 3), sat('b', 2, 3), sat('c', 5, 3.1, {}, { events }), sat('d', null, 3.1)];
    expect(productsOf(replaced, 'Three', 'strength')[0].samples.map(({ sittings }) => sittings)).toEqual([2, 1]);
    const kits = [sat('a', 1, 3), sat('b', 2, 3.1, { id: 'lent' })];
    expect(productsOf(kits, 'Three', 'strength')[0].samples.map(({ kit }) => kit)).toEqual(['three', 'lent']);
    // Once each: what differs can't be told.
    expect(productsOf(kits, 'Three', 'strength')[0].spread).toBeNull();
    expect(productsOf([sat('a', 1, 3), sat('b', 2, 3)], 'Three', 'strength')).toEqual([]);
    expect(productsOf(kits, 'Another', 'strength')).toEqual([]);
    // What a broken file calls a serial number is none.
    expect(productsOf([sat('a', 1, 3, {}, { serial: 7 }), sat('b', 2, 3, {}, { serial: '' })], 'Three', 'strength')).toEqual([]); // prettier-ignore
  });

  test('0.1 stop between samples and 0.01 between sittings are told apart', () => {
    const group = (serial: string, ...values: number[]) => values.map((value, i) => sat(`${serial}${i}`, i, value, {}, { serial })); // prettier-ignore
    const [{ spread }] = productsOf(
      [...group('A', 3.0, 3.01, 2.99), ...group('B', 3.1, 3.11, 3.09), ...group('C', 3.2, 3.21, 3.19)],
      'Three',
      'strength',
    );
    expect(spread!.within.value).toBeCloseTo(0.01, 9);
    // Means 3, 3.1, 3.2 spread by 0.1; a third of the sittings' variance is in them.
    expect(spread!.between.value).toBeCloseTo(Math.sqrt(0.01 - 0.0001 / 3), 9);
    expect(spread!.between.low).toBeGreaterThan(0.03);
  });

  test('a line is of one sample: sittings of another serial number are counted, not drawn', () => {
    const sittings = [
      sat('a', 1, 3, {}, { serial: 'A' }),
      sat('b', 100, 3.1, {}, { serial: 'B' }),
      sat('c', 200, 3.1, {}, { serial: 'B' }),
      sat('d', 300, 3.1),
    ];
    const [{ filters }] = livesOf(sittings, 'strength');
    expect(filters[0].points.map(({ session }) => session)).toEqual(['b', 'c', 'd']);
    expect(filters[0].earlier).toBe(1);
    // Between two samples 0.1 stop would have been a change.
    expect(filters[0].change!.word).not.toBe('changed');
  });
});
