/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import type { DatedSitting } from '@/core/judging/overTime/lives';
import { choose, show } from '@/ui/testing/render';
import { componentInWords, eventWords, samplesSentence, sentenceOf, titleOf } from './words';
import { Years } from './Years';
import { withU95, signedWithU95 } from '@/ui/format';

// Drawings are looked at in the browser tests: jsdom has no sizes.
jest.mock('@/ui/charts/ChartFigure', () => ({
  ChartFigure: ({ title, rows }: { title: string; rows: readonly (readonly string[])[] }) => (
    <figure aria-label={title}>{rows.map((row) => row.join(' ')).join('; ')}</figure>
  ),
}));

const MONTH = 30.4375 * 24 * 3600 * 1000;
const START = Date.UTC(2024, 5, 8);

function sitting(i: number, stops: Record<string, number>, kit = 'Three', more: object = {}): DatedSitting {
  return {
    session: `${kit}-${i}`,
    title: `Sitting ${i} of ${kit}`,
    day: START + 3 * i * MONTH,
    kit: {
      id: kit.toLowerCase(),
      name: kit,
      filters: Object.keys(stops).map((id) => ({ id, name: id.toUpperCase(), kind: 'nd', nominal: {}, ...more })),
    },
    readings: Object.entries(stops).map(([filter, value]) => ({ filter, density: { stops: { value, u95: 0.01 } } })),
  } as unknown as DatedSitting;
}

/** ND64 loses 0.02 stops a sitting; from the sixth on the bench reads everything 0.05 darker. */
const moved = (i: number) => (i >= 5 ? 0.05 : 0);
const FADING = Array.from({ length: 8 }, (_, i) => sitting(i, { nd4: 2 + moved(i) + 0.0005 * (i % 2), nd8: 3 + moved(i), nd64: 6 - 0.02 * i + moved(i) })); // prettier-ignore

const open = (sittings: DatedSitting[], wanted: string | null = null) =>
  show(<Years sittings={sittings} leftOut={[]} wanted={wanted} />);
const row = (name: RegExp) => within(screen.getByRole('row', { name })).getAllByRole('cell').map((one) => one.textContent); // prettier-ignore

test('what the bench did is no filter’s change: said first, then taken out', async () => {
  const { user } = open(FADING);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(
    'The bench has moved, or the filters have changed',
  );
  expect(screen.getByText(/take its change out to see/)).toBeTruthy();
  expect(screen.getByRole('heading', { level: 2 }).textContent).toBe('The bench has moved');
  // Five sittings from June 2024 on lie low, three from September 2025 on high.
  expect(screen.getByText('From Sep 2025 to Mar 2026: 3 sittings above the limits.')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: /Take the bench/ }));
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('ND64 has changed');
  // 0.02 a sitting over seven sittings, three months each: 0.14, 0.08 a year.
  expect(row(/^ND64/)[3]).toMatch(/^−0\.14 ±0\.0\d$/);
  expect(row(/^ND64/)[4]).toMatch(/^−0\.08/);
  expect(row(/^ND8/)[5]).toBe('steady');
  // By a control filter too, which is no row of its own then.
  await choose(user, 'The bench by', 'ND4, 8 sittings');
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('ND64 has changed');
  expect(screen.queryByRole('row', { name: /^ND4 / })).toBeNull();
  expect(screen.getByText(/lies in its case between sittings and is measured in each/)).toBeTruthy();
  // A quality that it wasn't measured in has no such filter: all together again, and no figures.
  await choose(user, 'What is followed', 'Darkest corner');
  expect(screen.getByRole('combobox', { name: 'The bench by' }).textContent).toBe('all filters together');
});

test('a steady kit is told with what can be excluded; another filter is drawn, another quality has no figures', async () => {
  const steady = [0, 1, 2].map((i) => sitting(i, { nd4: 2.001, nd8: 3, nd64: 6 }));
  const { user } = open(steady);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Nothing has changed');
  expect(screen.getByText(/A change of strength by more than 0\.0\d stops can be excluded/)).toBeTruthy();
  expect(screen.getByText(/Limits need 6 sittings of what the bench is judged by; there are 3/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'ND8' }));
  expect(screen.getByRole('figure', { name: 'ND8: strength' }).textContent).toContain(
    '2024-06-08 Sitting 0 of Three 3.00 ±0.01',
  );
  await choose(user, 'What is followed', 'Sharpness kept');
  expect(screen.getByText('No sitting of this kit has figures of that.')).toBeTruthy();
});

test('one sitting, a kit without any, no kit at all, and sessions that can’t be drawn', async () => {
  const alone = open([sitting(0, { nd4: 2 })]);
  expect(screen.getByText(/Fewer than three filters were measured together/)).toBeTruthy();
  alone.unmount();
  const { unmount, user } = open(FADING, 'Harbour Six');
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Harbour Six hasn’t been measured yet');
  await choose(user, 'Kit', 'Three');
  expect(screen.getByRole('row', { name: /^ND64/ })).toBeTruthy();
  unmount();
  const empty = open([]);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Nothing to follow yet');
  empty.unmount();
  // After an update of the program none may stand: which, is said.
  const update = show(<Years sittings={[]} leftOut={[{ id: 'x', title: 'Old one', kits: [] }]} wanted={null} />);
  expect(screen.getByRole('link', { name: 'Old one' }).parentElement!.textContent).toContain('measure it again');
  update.unmount();
  const undated = { ...sitting(9, { nd4: 9 }), day: null };
  show(
    <Years
      sittings={[...FADING, undated]}
      leftOut={[
        { id: 'x', title: 'Changed one', kits: ['three Three'] },
        { id: 'y', title: 'Of another kit', kits: ['six Six'] },
      ]}
      wanted={null}
      lookedAt={200}
    />,
  );
  expect(screen.queryByRole('link', { name: 'Of another kit' })).toBeNull();
  expect(screen.getByText(/Only the newest 200 measured sessions/)).toBeTruthy();
  expect(screen.getByRole('link', { name: undated.title }).getAttribute('href')).toContain('/details');
  expect(screen.getByRole('link', { name: 'Changed one' }).getAttribute('href')).toContain('/measure');
});

test('what happened stands below the drawing, with the step', () => {
  open([0, 1, 2].map((i) => sitting(i, { nd4: i < 2 ? 2 : 2.3 }, 'Three', { events: [{ date: '2024-11-01', what: 'dropped' }] }))); // prettier-ignore
  const list = screen.getByRole('list', { name: 'What happened to ND4' });
  expect(list.textContent).toMatch(
    /^Dropped on 2024-11-01: \+0\.30 ±\d\.\d\d stops from the sitting before it to the next\.$/,
  );
});

test('several samples of one product stand below their kit', async () => {
  const of = (kit: object, i: number, nd4: number, serial?: string) => {
    const one = sitting(i, { nd4, nd8: 3 });
    return { ...one, session: `${JSON.stringify(kit)}${i}`, kit: { ...one.kit, ...kit, filters: one.kit.filters.map((filter) => ({ ...filter, ...(serial ? { serial } : {}) })) } } as DatedSitting; // prettier-ignore
  };
  const lent = { id: 'lent' };
  const twice = [
    of({}, 0, 2, 'A1'),
    of({}, 1, 2.01, 'A1'),
    of({}, 2, 2.005, 'A1'),
    of(lent, 3, 2.2),
    of(lent, 4, 2.21),
  ];
  const { user } = open(twice);
  const samples = within(screen.getByRole('region', { name: 'Samples of one product' }));
  expect(
    samples.getByText(/^Samples of ND4 differ by more than sittings of one sample do: by 0\.1\d stops/),
  ).toBeTruthy();
  expect(samples.getByRole('row', { name: /^ND4/ }).textContent).toMatch(/A1, 3×.*sample B, 2× 2\.2[01]/);
  // Alike in every sitting: nothing between them.
  expect(samples.getByRole('row', { name: /^ND8/ }).textContent).toContain('0.000 (0.000 to 0.000)');
  await choose(user, 'Kit', 'Three (lent)');
  // Of this kit's own line there are two sittings.
  expect(row(/^ND4 2 /)[0]).toBe('2');
});

describe('words', () => {
  test('figures keep the decimals of their ±', () => {
    expect(signedWithU95({ value: -0.0704, u95: 0.036 })).toBe('−0.07 ±0.04');
    expect(signedWithU95({ value: 0.0012, u95: 0.004 })).toBe('+0.001 ±0.004');
    expect(withU95({ value: 6.0714, u95: 0.0011 })).toBe('6.071 ±0.002');
  });

  test('too rough, one day, nothing on one side', () => {
    const life = (over: number, u95: number, word: string) => ({ name: 'ND4', change: { over: { value: over, u95 }, word }, points: [{ day: START }, { day: START + MONTH }] }); // prettier-ignore
    expect(titleOf([life(0.1, 0.5, 'open')] as never, false)).toBe('Too roughly measured to tell');
    expect(titleOf([life(0.1, 0.5, 'open'), life(0, 0.01, 'steady')] as never, false)).toBe('No change is seen');
    expect(titleOf([life(0.1, 0.08, 'perhaps changed')] as never, false)).toBe('ND4 may have changed');
    expect(sentenceOf([{ name: 'ND4', change: null }] as never, 'strength', false)).toContain('two sittings');
    expect(eventWords({ what: 'cleaned', date: '2025-01-02', day: 0, step: null }, 'stops')).toBe(
      'Cleaned on 2025-01-02: no sitting stands on both sides of it.',
    );
  });

  test('samples that were measured once, and ones that hardly differ', () => {
    const spread = { mean: 3, between: { value: 0, low: 0, high: 0.04 }, within: { value: 0.01, low: 0.005, high: 0.03 }, groups: 2, values: 4 }; // prettier-ignore
    expect(samplesSentence([{ name: 'ND4', samples: [], spread: null }], 'stops')).toContain('was measured once');
    expect(samplesSentence([{ name: 'ND4', samples: [], spread }], 'stops')).toContain('no more than sittings');
    expect(componentInWords(spread.between)).toBe('0.00 (0.00 to 0.04)');
    expect(componentInWords(undefined)).toBe('–');
  });
});
