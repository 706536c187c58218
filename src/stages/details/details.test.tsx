/** @jest-environment jsdom */
/** A session is put right: each field goes by itself, with what was seen of it. */
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { historyOf, type DetailsView } from '@/server/details';
import { choose, show } from '@/ui/testing/render';
import { SessionDetails } from './SessionDetails';

let asked: [what: string, ...words: unknown[]][];
let answers: unknown[];
const mockAsk = (what: string, ...words: unknown[]) => (
  asked.push([what, ...words]),
  Promise.resolve(answers.shift() ?? { ok: true, revision: 7, refused: [] })
);
jest.mock('@/server/editActions', () => ({
  editSessionAction: (...words: unknown[]) => mockAsk('edit', ...words),
  undoAction: (...words: unknown[]) => mockAsk('undo', ...words),
  bringBackAction: (...words: unknown[]) => mockAsk('back', ...words),
}));
jest.mock('@/server/shelfActions', () => ({ rigAction: () => Promise.resolve(null) }));
jest.mock('@/store', () => ({}));

const VIEW: DetailsView = {
  id: 's',
  title: 'Weir',
  fields: {
    title: 'Weir',
    rig: { camera: 'Bench camera', response: { kind: 'srgb' }, unknownKey: 1 },
    kits: [
      { id: 'k', name: 'Foundry Set', filters: [{ id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } }, { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] },
    ],
    scenes: [{ id: 'chart', kind: 'chart' }],
  },
  takesOn: { nd4: 2 },
  rigs: [],
  history: [
    { number: 3, at: '2026-05-14T09:03:00Z', words: 'title' },
    { number: 1, at: '2026-05-14T09:00:00Z', words: 'as it was made' },
  ],
}; // prettier-ignore

beforeEach(() => {
  asked = [];
  answers = [];
});
const settle = () => act(() => new Promise((done) => setTimeout(done, 600)));
const edits = () => asked.filter(([what]) => what === 'edit').map(([, , list]) => list);

test('a title is typed: one change goes, with the title that was seen', async () => {
  const { user } = show(<SessionDetails view={VIEW} />);
  const title = screen.getByLabelText('Title');
  await user.clear(title);
  await user.type(title, 'Dam');
  await settle();
  const sent = () => edits().flat() as { at: string[]; seen: unknown[]; to: unknown }[];
  // A slow hand is sent in parts; each begins where the last was answered.
  expect(sent()[0]).toMatchObject({ at: ['title'], seen: ['Weir'] });
  expect(sent().at(-1)!.to).toBe('Dam');
  expect(screen.getByText('Saved')).toBeTruthy();
  await user.type(title, 's');
  await settle();
  expect(sent().at(-1)).toEqual({ at: ['title'], seen: ['Dam'], to: 'Dams' });
  sent().forEach(({ seen }, i) => i > 0 && expect(seen).toEqual([sent()[i - 1].to]));
});

test('no answer, and typed on: what was sent counts as seen, so that no one else is suspected', async () => {
  answers = [{ ok: false, error: 'The database doesn’t answer.' }];
  const { user } = show(<SessionDetails view={VIEW} />);
  await user.type(screen.getByLabelText('Place'), 'A');
  await settle();
  expect(screen.getByRole('alert').textContent).toContain('database');
  await user.type(screen.getByLabelText('Place'), 'B');
  await settle();
  expect(edits().at(-1)).toEqual([expect.objectContaining({ at: ['place'], to: 'AB' })]);
  const [{ seen }] = edits().at(-1) as [{ seen: unknown[] }];
  expect(seen.slice(0, 2)).toEqual([undefined, 'A']);
});

test('an emptied field is forgotten; day, camera, marks and scene are changed, and what isn’t shown stays', async () => {
  const { user } = show(<SessionDetails view={{ ...VIEW, fields: { ...VIEW.fields, place: 'Quay' } }} />);
  await user.clear(screen.getByLabelText('Place'));
  fireEvent.change(screen.getByLabelText('Day'), { target: { value: '2026-05-14' } });
  await choose(user, 'Shutter marks', '1/60 means 1/64');
  await choose(user, 'chart', 'an ordinary scene');
  await settle();
  expect(edits().flat()).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ at: ['place'], to: undefined }),
      expect.objectContaining({ at: ['date'], to: '2026-05-14' }),
      expect.objectContaining({ at: ['rig', 'shutterMarks'], to: 'nominal' }),
      expect.objectContaining({ at: ['scenes', 'chart', 'kind'], to: 'outdoor' }),
    ]),
  );
});

test('a label is typed anew; a filter without takes goes, one with takes stays and that is told', async () => {
  const { user } = show(<SessionDetails view={VIEW} />);
  const label = screen.getByLabelText('Label, row 1');
  await user.clear(label);
  await user.type(label, '3 stops');
  await user.click(screen.getByRole('button', { name: /^Remove ND4/ }));
  expect(screen.getByRole('alert').textContent).toContain('“ND4” has 2 takes on it');
  await user.click(screen.getByRole('button', { name: /^Remove ND8/ }));
  await settle();
  const sent = edits().flat() as { at: string[]; to: unknown }[];
  const lastOf = (at: string) => sent.findLast((one) => one.at.join('/') === at);
  expect(lastOf('kits/k/filters/nd8')).toMatchObject({ to: undefined });
  expect(lastOf('kits/k/filters/nd4/nominal')!.to).toEqual({ stops: 3 });
  expect(lastOf('kits/k/filters/nd4')).toBeUndefined();
});

test('what somebody else came before is told, and what stands is shown', async () => {
  answers = [{ ok: true, revision: null, refused: ['The title was changed elsewhere meanwhile and is “Quay” now.'] }];
  const { user, rerender } = show(<SessionDetails view={VIEW} />);
  await user.type(screen.getByLabelText('Title'), '!');
  await settle();
  expect(screen.getByRole('alert').textContent).toContain('“Quay”');
  rerender(<SessionDetails view={{ ...VIEW, fields: { ...VIEW.fields, title: 'Quay' } }} />);
  expect(screen.getByLabelText<HTMLInputElement>('Title').value).toBe('Quay');
});

test('an earlier state is brought back, and that can be undone', async () => {
  const { user } = show(<SessionDetails view={VIEW} />);
  const history = within(screen.getByRole('complementary', { name: 'History' }));
  expect(history.getAllByRole('button')).toHaveLength(1);
  await user.click(history.getByRole('button', { name: 'Bring back: as it was made' }));
  expect(asked).toEqual([['back', 's', 1]]);
  // The page has an undo of its own; the last is the toast's.
  await waitFor(() => expect(screen.getAllByRole('button', { name: 'Undo' })).toHaveLength(2));
  await user.click(screen.getAllByRole('button', { name: 'Undo' })[1]);
  await waitFor(() => expect(asked.at(-1)).toEqual(['undo', 's', 7]));
});

test('steps of one change within two minutes are one entry of history', () => {
  const step = (number: number, seconds: number, at: string[], author: string | null = null) => ({
    number,
    author,
    at: new Date(Date.UTC(2026, 4, 14, 9, 0, seconds)),
    changes: [{ at, how: 'changed' as const }],
  });
  const rect = ['patches', 'gray', 'rect'];
  const list = [step(5, 400, rect), step(4, 100, ['title']), step(3, 60, rect), step(2, 0, rect)];
  expect(historyOf(list).map(({ number, words }) => [number, words])).toEqual([
    [5, 'patch “gray”: place'],
    [4, 'title'],
    [3, 'patch “gray”: place'],
  ]);
  // What two people did is two entries, with their names.
  const two = [step(3, 30, rect, 'Ada'), step(2, 0, rect)];
  expect(historyOf(two).map(({ words }) => words)).toEqual(['patch “gray”: place (Ada)', 'patch “gray”: place']);
});
