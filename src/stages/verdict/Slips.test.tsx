/** @jest-environment jsdom */
/** A slip is asked about, put right by one press, and that can be undone. */
import { screen, waitFor } from '@testing-library/react';
import type { Slip } from '@/core/judging/slips';
import { show } from '@/ui/testing/render';
import { Slips } from './Slips';

let asked: unknown[][];
let mockAnswer: unknown;
jest.mock('@/server/takeActions', () => ({
  editTakesAction: (...words: unknown[]) => (asked.push(words), Promise.resolve(mockAnswer)),
}));
jest.mock('@/server/editActions', () => ({
  undoAction: (...words: unknown[]) => (asked.push(['undo', ...words]), Promise.resolve({ ok: true })),
}));
const SLIP: Slip = {
  question: 'ND8 is exactly 2 stops off: was the shutter 1/1000 s and not 1/250 s?',
  answer: 'Yes, it was 1/1000 s',
  edits: [{ id: 'nd8', seen: { shutter: '1/250' }, to: { shutter: '1/1000' } }],
};
beforeEach(() => {
  asked = [];
  mockAnswer = { ok: true, revision: 9, refused: [] };
});

test('nothing to ask, nothing shown', () => {
  show(<Slips slips={[]} sessionId="s" />);
  expect(screen.queryByRole('list', { name: 'Questions' })).toBeNull();
});

test('one press puts it right, another takes that back', async () => {
  const { user } = show(<Slips slips={[SLIP]} sessionId="s" />);
  await user.click(screen.getByRole('button', { name: 'Yes, it was 1/1000 s' }));
  expect(asked).toEqual([['s', SLIP.edits]]);
  await user.click(await screen.findByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(asked.at(-1)).toEqual(['undo', 's', 9]));
});

test('what the server refuses, and what another window came before, is told', async () => {
  mockAnswer = { ok: true, revision: null, refused: ['The shutter of take “nd8” is “1/60” now.'] };
  const { user } = show(<Slips slips={[SLIP]} sessionId="s" />);
  await user.click(screen.getByRole('button', { name: 'Yes, it was 1/1000 s' }));
  expect((await screen.findAllByText(/is “1\/60” now/)).length).toBeGreaterThan(0);
  mockAnswer = { ok: false, error: 'The database doesn’t answer.' };
  await user.click(screen.getByRole('button', { name: 'Yes, it was 1/1000 s' }));
  expect((await screen.findAllByText('The database doesn’t answer.')).length).toBeGreaterThan(0);
});
