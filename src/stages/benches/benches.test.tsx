/** @jest-environment jsdom */
/** Between benches: what the page says of benches that agree and that don't, and how another one is taken in. */
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { benchOf } from '@/core/judging/agreement/benches';
import { show } from '@/ui/testing/render';
import { Benches } from './Benches';
import { nameOfFile, readFile } from './readFile';
import { moreWords, patternWords } from './words';

let mockAsked: unknown[];
let mockAnswer: () => Promise<unknown>;
jest.mock('@/server/benchActions', () => ({
  takeInBenchAction: (...words: unknown[]) => (mockAsked.push(words), mockAnswer()),
  putBenchAwayAction: (...words: unknown[]) => (mockAsked.push(['away', ...words]), Promise.resolve({ ok: true })),
}));
jest.mock('@/ui/charts/ChartFigure', () => ({
  ChartFigure: ({ title, rows }: { title: string; rows: readonly (readonly string[])[] }) => (
    <figure aria-label={title}>{rows.map((row) => row.join(' ')).join('; ')}</figure>
  ),
}));
beforeEach(() => {
  mockAsked = [];
  mockAnswer = () => Promise.resolve({ ok: true, filters: 2, problems: [] });
});

const STOPS = { ND8: 3.1, ND16: 3.95, ND64: 6.32 };
const bench = (name: string, off: (stops: number, filter: string) => number) =>
  benchOf(name, {
    name,
    file: `${name}.csv`,
    filters: Object.entries(STOPS).map(([filter, stops]) => ({
      kit: 'Foundry Set',
      filter,
      label: Math.round(stops),
      figures: { strength: { value: stops + off(stops, filter), u95: 0.03 } },
    })),
  });
const theirs = ['A', 'B', 'C'].map((name) => ({ id: name, name, file: `${name}.csv`, filters: 3 }));

test('without another bench it says what to do next', () => {
  show(<Benches benches={[bench('A', () => 0)]} theirs={[]} today="2026-12-01" />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('No filter of two benches yet');
  expect(screen.getByText(/Take in what another bench measured/)).toBeTruthy();
  expect(screen.getByText(/any table with the columns/)).toBeTruthy();
});

test('benches that agree are said to, with the mean and how many more are needed', () => {
  show(
    <Benches
      benches={[bench('A', () => 0.005), bench('B', () => -0.005), bench('C', () => 0)]}
      theirs={theirs}
      today="2026-12-01"
    />,
  );
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('All 3 benches agree');
  expect(
    screen.getByText(/^ND8 of Foundry Set: strength 3\.10 ±0\.02 stops, the mean weighted by their ±/),
  ).toBeTruthy();
  expect(screen.getByText(/no further bench is needed/)).toBeTruthy();
  expect(screen.getAllByText('nothing beyond the ± over 3 filters')).toHaveLength(3);
});

test('who is off is named, with the distance from the others, and in what', async () => {
  const off = bench('C', (_, filter) => (filter === 'ND64' ? -0.33 : 0));
  const { user } = show(
    <Benches benches={[bench('A', () => 0), bench('B', () => 0), off]} theirs={theirs} today="2026-12-01" />,
  );
  // What one came to see is shown first; another filter is chosen.
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('C is off');
  await user.click(screen.getByRole('combobox', { name: 'Filter' }));
  await user.click(screen.getByRole('option', { name: 'ND8 of Foundry Set' }));
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('All 3 benches agree');
  await user.click(screen.getByRole('combobox', { name: 'Filter' }));
  await user.click(screen.getByRole('option', { name: 'ND64 of Foundry Set' }));
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('C is off');
  const row = within(screen.getByRole('table', { name: 'Strength of ND64 of Foundry Set by bench' })).getByRole('row', {
    name: /^C /,
  });
  // By hand: ±√(.03² + (.03/√2)²) = .037; Eₙ = −.33/.037 = −9.0.
  expect(row.textContent).toContain('−0.33 ±0.04');
  expect(row.textContent).toContain('−9.0');
  expect(row.textContent).toMatch(/off$/);
  expect(screen.getByText(/ND64 of Foundry Set by −0\.33 ±0\.04 stop: a third of a stop on a dial/)).toBeTruthy();
  expect(screen.getByRole('figure', { name: /^ND64 of Foundry Set and/ }).textContent).toMatch(
    /C 5\.990 3\.100 −0\.165 −0\.165 outside/,
  );
});

test('all of one label: it is the filters that differ, whoever measured them', async () => {
  const other = (name: string, kit: string, strength: number) => ({ ...bench(name, () => strength), filters: bench(name, (stops) => strength - stops).filters.slice(0, 1).map((one) => ({ ...one, kit, keys: [`${kit} nd8`] })) }); // prettier-ignore
  const benches = [other('A', 'Foundry Set', 3.1), other('B', 'Harbour Six', 3.11), other('C', 'Millrace Five', 3.5)];
  const { user } = show(<Benches benches={benches} theirs={theirs} today="2026-12-01" />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('No filter of two benches yet');
  await user.click(screen.getByRole('combobox', { name: 'What is compared' }));
  await user.click(screen.getByRole('option', { name: 'All of one label' }));
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Filters of this label differ');
  expect(screen.getByText(/the mean without the 1 that stands far apart, weighted by their ±/)).toBeTruthy();
  const row = screen.getByRole('row', { name: /^ND8 of Millrace Five, C/ });
  expect(row.textContent).toMatch(/stands apart$/);
});

test('of two that disagree none is named', () => {
  show(<Benches benches={[bench('A', () => 0), bench('B', () => 0.4)]} theirs={theirs} today="2026-12-01" />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('The two benches disagree');
});

test('a table is taken in under a name, and what could not be read is told', async () => {
  mockAnswer = () => Promise.resolve({ ok: true, filters: 2, problems: ['Row 4 names no filter.'] });
  const { user } = show(<Benches benches={[bench('A', () => 0)]} theirs={[]} today="2026-12-01" />);
  const file = new File(['filter,stops,stops_u95\nND8,3.1,0.02\n'], 'mill-lane.readings.csv');
  fireEvent.change(screen.getByLabelText('Readings of another bench'), { target: { files: [file] } });
  const name = await screen.findByLabelText(/Whose bench is mill-lane/);
  expect((name as HTMLInputElement).value).toBe('mill lane');
  await user.clear(name);
  await user.type(name, 'Mill Lane');
  await user.click(screen.getByRole('button', { name: 'Take in' }));
  await waitFor(() => expect(mockAsked).toHaveLength(1));
  expect(mockAsked[0]).toEqual([{ name: 'Mill Lane', file: 'mill-lane.readings.csv', table: 'filter,stops,stops_u95\nND8,3.1,0.02' }]); // prettier-ignore
  const told = await screen.findByText('Mill Lane: 2 filters taken in.');
  expect(within(told.closest('ul')!).getByText('Row 4 names no filter.')).toBeTruthy();
});

test('a refusal is told and the file stays chosen; a bench is put away', async () => {
  mockAnswer = () => Promise.resolve({ ok: false, error: 'There is no column “filter”.' });
  const { user } = show(<Benches benches={[bench('A', () => 0)]} theirs={theirs.slice(0, 1)} today="2026-12-01" />);
  const file = new File(['name,stops\n'], 'a.csv');
  fireEvent.change(screen.getByLabelText('Readings of another bench'), { target: { files: [file] } });
  await user.click(await screen.findByRole('button', { name: 'Take in' }));
  expect(await screen.findByText('a.csv: There is no column “filter”.')).toBeTruthy();
  expect(screen.getByLabelText(/Whose bench is a\.csv/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Put A away' }));
  await waitFor(() => expect(mockAsked.at(-1)).toEqual(['away', 'A', true]));
});

describe('a file', () => {
  const of = (text: string) => readFile(new File([text], 'a.json'));
  test('that is no JSON, none of readings, or too large is told', async () => {
    expect(await of('{"a":')).toEqual({ problem: expect.stringContaining('looks like JSON and can’t be read') });
    expect(await of('{"a":1}')).toEqual({ problem: expect.stringContaining('no file of readings') });
    expect(await readFile({ size: 60_000_000, text: () => Promise.resolve('') })).toEqual({ problem: expect.stringContaining('too large') }); // prettier-ignore
    expect(await of(`filter\n${'x'.repeat(900_001)}`)).toEqual({ problem: expect.stringContaining('too large') });
  });
  test('gives a name to begin with', () => {
    expect(nameOfFile('mill-lane_readings.glade.json')).toBe('mill lane readings');
    expect(nameOfFile('x.csv')).toBe('x');
  });
});

test('how many more, and patterns, in words', () => {
  expect(moreWords(1, 0.05, 'stops', 'filter')).toBe('1 further bench like these would bring the mean to ±0.05 stops.');
  expect(moreWords(null, 0.05, 'stops', 'filter')).toContain('what makes them differ has to be found');
  const of = (pattern: object) => patternWords({ bench: 'A', filters: 4, pattern } as never);
  expect(of({ what: 'response', slope: { value: 0.02, u95: 0.004 } })).toBe('+0.020 ±0.004 stop for each stop of strength over 4 filters: its camera’s curve'); // prettier-ignore
  expect(of({ what: 'light', offset: { value: -0.11, u95: 0.02 } })).toContain('for all 4 filters alike: its light');
  expect(of({ what: 'filters', single: [{ filter: 'F', off: { value: 0.2, u95: 0.02 }, step: null }] })).toContain('another sample, or a slip'); // prettier-ignore
  expect(of({ what: 'scatter' })).toContain('without a pattern');
});

test('a round robin: turns by day, a form for each bench; what is missing is said', async () => {
  const kit = { id: 'k', name: 'Foundry Set', filters: ['ND8', 'ND16', 'ND64'].map((name) => ({ id: name.toLowerCase(), name, kind: 'nd' as const, nominal: {} })) }; // prettier-ignore
  const { user } = show(<Benches benches={[]} theirs={theirs.slice(0, 2)} kits={[{ id: 'shelf-1', kit }]} today="2026-12-01" />); // prettier-ignore
  await user.click(screen.getByRole('button', { name: 'Plan a round robin' }));
  const turns = () =>
    within(screen.getByRole('table', { name: 'Who has which filters when' }))
      .getAllByRole('row')
      .slice(1)
      .map((row) => [...row.children].map((cell) => cell.textContent).join(' '));
  expect(turns()).toEqual([
    '2026-12-01 2026-12-14 Home all',
    '2026-12-15 2026-12-28 A all',
    '2026-12-29 2027-01-11 B all',
    '2027-01-12 2027-01-25 Home all',
  ]);
  const form = screen.getByRole('link', { name: 'Form for A' }).getAttribute('href')!;
  const asked = new URL(form, 'http://localhost').searchParams;
  expect(asked.get('bench')).toBe('A');
  expect(JSON.parse(asked.get('plan')!)).toMatchObject({ benches: ['A', 'B'], days: 14, inParcels: false });
  await user.click(screen.getByRole('combobox', { name: 'How it travels' }));
  await user.click(screen.getByRole('option', { name: 'In parcels, all benches at once' }));
  expect(turns().slice(0, 3)).toEqual([
    '2026-12-01 2026-12-14 Home ND8',
    '2026-12-01 2026-12-14 A ND16',
    '2026-12-01 2026-12-14 B ND64',
  ]);
  await user.clear(screen.getByLabelText('Other benches, a line each'));
  expect(screen.getByText('A round robin needs another bench.')).toBeTruthy();
});
