/** @jest-environment jsdom */
/** What was put away is found with its dates, and comes back by the way of its kind. */
import { screen, waitFor, within } from '@testing-library/react';
import type { PutAwayEntry } from '@/server/putAway';
import { show } from '@/ui/testing/render';
import { PutAwayList } from './PutAwayList';

let mockAsked: unknown[];
let mockAnswer: () => Promise<unknown>;
jest.mock('@/server/sessionActions', () => ({
  putAwayAction: (...words: unknown[]) => (mockAsked.push(['session', ...words]), mockAnswer()),
}));
jest.mock('@/server/shelfActions', () => ({
  putAwayFromShelfAction: (...words: unknown[]) => (mockAsked.push(words), mockAnswer()),
}));
jest.mock('@/server/benchActions', () => ({
  putBenchAwayAction: (...words: unknown[]) => (mockAsked.push(['bench', ...words]), mockAnswer()),
}));
jest.mock('@/server/reportActions', () => ({
  putReportAwayAction: (...words: unknown[]) => (mockAsked.push(['report', ...words]), mockAnswer()),
}));
beforeEach(() => {
  mockAsked = [];
  mockAnswer = () => Promise.resolve({ ok: true });
});

const entry = (kind: PutAwayEntry['kind'], name: string): PutAwayEntry => ({
  kind,
  id: `${kind}-1`,
  name,
  at: '2026-11-02T10:00:00.000Z',
  until: '2026-12-02T10:00:00.000Z',
});

test.each([
  ['session', ['session', 'session-1', false]],
  ['kit', ['kit', 'kit-1', false]],
  ['rig', ['rig', 'rig-1', false]],
  ['bench', ['bench', 'bench-1', false]],
  ['report', ['report', 'report-1', false]],
] as const)('a %s says since when and until when, and comes back', async (kind, asked) => {
  const { user } = show(<PutAwayList entries={[entry(kind, 'Quarry'), entry('session', 'Other')]} />);
  const [row] = within(screen.getByRole('list', { name: 'What is put away' })).getAllByRole('listitem');
  expect(row.textContent).toContain(`${kind}, put away on 2026-11-02, kept until 2026-12-02`);
  await user.click(screen.getByRole('button', { name: 'Bring “Quarry” back' }));
  expect(mockAsked).toEqual([asked]);
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Bring “Quarry” back' })).toBeNull());
});

test('a refusal is told, and it stays', async () => {
  mockAnswer = () => Promise.resolve({ ok: false, error: 'It is gone for good.' });
  const { user } = show(<PutAwayList entries={[entry('kit', 'Quarry')]} />);
  await user.click(screen.getByRole('button', { name: 'Bring “Quarry” back' }));
  await waitFor(() => expect(screen.getAllByText('It is gone for good.').length).toBeGreaterThan(0));
  expect(screen.getByRole('button', { name: 'Bring “Quarry” back' })).toBeTruthy();
});

test('nothing put away says so', () => {
  show(<PutAwayList entries={[]} />);
  expect(screen.getByText(/Nothing is put away/)).toBeTruthy();
});
