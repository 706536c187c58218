/** @jest-environment jsdom */
/** Footage on its takes: what is typed, what is moved, and what comes back. */
import { act, screen, waitFor, within } from '@testing-library/react';
import type { FootageView } from '@/server/footage';
import { choose, show } from '@/ui/testing/render';
import { smallSession, viewOf } from '@/ui/testing/sessions';
import { boardOf, placeOfRow } from './board';
import { Footage } from './Footage';
import { Practice } from './Practice';
import { asTyped } from '@/core/sitting/intake/typedTake';
import { useTakeEdits } from './useTakeEdits';

let asked: [what: string, ...words: unknown[]][];
let answers: Record<string, () => Promise<unknown>>;
const act2 =
  (what: string) =>
  (...words: unknown[]) => (
    asked.push([what, ...words]),
    (answers[what] ?? (() => Promise.resolve({ ok: true, revision: 7, refused: [] })))()
  );
jest.mock('@/server/takeActions', () => ({
  editTakesAction: (...words: unknown[]) => act2('edit')(...words),
  moveFileAction: (...words: unknown[]) => act2('move')(...words),
  addFilesAction: (...words: unknown[]) => act2('add')(...words),
  layAction: (...words: unknown[]) => act2('lay')(...words),
}));
jest.mock('@/server/editActions', () => ({ undoAction: (...words: unknown[]) => act2('undo')(...words) }));

const NOTHING: FootageView = { tiles: {}, checks: [] };
beforeEach(() => {
  asked = [];
  answers = {};
});
const session = smallSession();

describe('the takes’ table', () => {
  test('what is typed is sent together, with what was shown; then nothing is left to save', async () => {
    const { user } = show(<Footage view={viewOf(session)} footage={NOTHING} />);
    const save = screen.getByRole('button', { name: 'Save changes' });
    expect(save).toHaveProperty('disabled', true);
    await user.clear(screen.getByLabelText('ISO of nd8'));
    await user.type(screen.getByLabelText('ISO of nd8'), '2a0.0');
    await choose(user, 'Filter of nd4', 'bare');
    await user.click(save);
    const [, id, edits] = asked.find(([what]) => what === 'edit')!;
    expect(id).toBe('session-1');
    const seen = { fNumber: '2.8', iso: '100', ringDegrees: '', mark: '', turn: '' };
    expect(edits).toEqual([
      { id: 'nd8', seen: { ...seen, filter: 'nd8', shutter: '1/250' }, to: { iso: '20.0' } },
      { id: 'nd4', seen: { ...seen, filter: 'nd4', shutter: '1/500' }, to: { filter: null } },
    ]);
    await waitFor(() => expect(screen.getByText(/^Saved. Measure again/)).toBeTruthy());
    expect(save).toHaveProperty('disabled', true);
  });

  test('a shutter that can’t be read is marked, and nothing is sent', async () => {
    const { user } = show(<Footage view={viewOf(session)} footage={NOTHING} />);
    const shutter = screen.getByLabelText('Shutter of nd4');
    await user.clear(shutter);
    await user.type(shutter, 'quick');
    expect(shutter.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('button', { name: 'Save changes' })).toHaveProperty('disabled', true);
  });

  test('a refusal is told, and what was typed stays', async () => {
    answers.edit = () => Promise.resolve({ ok: false, error: 'takes[1].exposure.iso: expected a number.' });
    const { user } = show(<Footage view={viewOf(session)} footage={NOTHING} />);
    await user.type(screen.getByLabelText('ISO of nd4'), '0');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('expected a number'));
    expect(screen.getByLabelText<HTMLInputElement>('ISO of nd4').value).toBe('1000');
    expect(screen.getByRole('button', { name: 'Save changes' })).toHaveProperty('disabled', false);
  });

  test('what another window came before is told beside what is saved', async () => {
    answers.edit = () => Promise.resolve({ ok: true, revision: 8, refused: ['The ISO of take “nd4” is “200” now.'] });
    const { user } = show(<Footage view={viewOf(session)} footage={NOTHING} />);
    await user.type(screen.getByLabelText('ISO of nd4'), '0');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('is “200” now'));
  });

  test('without a line that is said', async () => {
    answers.edit = () => Promise.reject(new TypeError('Failed to fetch'));
    const { user } = show(<Footage view={viewOf(session)} footage={NOTHING} />);
    await user.type(screen.getByLabelText('ISO of nd4'), '0');
    await user.click(screen.getByRole('button', { name: 'Save changes' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No connection to the server'));
  });

  test('columns are those that the kit needs', () => {
    const turning = smallSession({
      kits: [{ id: 'k', filters: [{ id: 'nd4', kind: 'polarizer', nominal: {} }, { id: 'nd8', kind: 'variable-nd', nominal: { stopsRange: [2, 5] } }] }],
      scenes: [{ id: 'chart', kind: 'sky' }],
    }); // prettier-ignore
    const { unmount } = show(<Footage view={viewOf(turning)} footage={NOTHING} />);
    for (const head of ['Ring, °', 'Mark', 'Turn, °'])
      expect(screen.getByRole('columnheader', { name: head })).toBeTruthy();
    unmount();
    show(<Footage view={viewOf(session)} footage={NOTHING} />);
    for (const head of ['Ring, °', 'Mark', 'Turn, °'])
      expect(screen.queryByRole('columnheader', { name: head })).toBeNull();
  });
});

describe('moving a file', () => {
  function Mover({ row }: { row: string }) {
    const edits = useTakeEdits(viewOf(session));
    return (
      <>
        <button type="button" onClick={() => void edits.move('nd8.png', row)}>
          move
        </button>
        <p>{edits.message?.text}</p>
        {edits.canTakeBack && (
          <button type="button" onClick={() => void edits.takeBack()}>
            back
          </button>
        )}
      </>
    );
  }

  test('is told in words, taken back by its revision, and done again by key', async () => {
    const { user } = show(<Mover row={JSON.stringify(['chart', 'nd4'])} />);
    await user.click(screen.getByRole('button', { name: 'move' }));
    expect(asked[0]).toEqual(['move', 'session-1', 'nd8.png', { take: null, filter: 'nd4', scene: 'chart' }]);
    await waitFor(() => expect(screen.getByText(/nd8.png is laid on ND4\. Measure again/)).toBeTruthy());
    await user.click(screen.getByRole('button', { name: 'back' }));
    expect(asked[1]).toEqual(['undo', 'session-1', 7]);
    await waitFor(() => expect(screen.getByText('Taken back.')).toBeTruthy());
    await user.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
    await waitFor(() => expect(asked.filter(([what]) => what === 'undo')).toHaveLength(2));
  });

  test('to where it lies already does nothing', async () => {
    const { user } = show(<Mover row={JSON.stringify(['chart', 'nd8'])} />);
    await user.click(screen.getByRole('button', { name: 'move' }));
    expect(asked).toEqual([]);
  });
});

describe('the board', () => {
  test('has bare first, each filter, and a bracket where there is one', () => {
    const withBracket = smallSession({
      takes: [
        ...smallSession().takes,
        { ...smallSession().takes[0], id: 'bracket', role: 'bracket', files: ['b.png'] },
      ],
    });
    const [group] = boardOf(withBracket, (path) => path);
    expect(group.title).toBe('Chart');
    expect(group.rows.map((row) => [row.label, row.tiles.map((tile) => tile.path)])).toEqual([
      ['bare', ['bare-1.png', 'bare-2.png']],
      ['ND4', ['nd4.png']],
      ['ND8', ['nd8.png']],
      ['bracket', ['b.png']],
    ]);
    expect(placeOfRow(group.rows[0].id)).toEqual({ scene: 'chart', filter: null });
    expect(placeOfRow(group.rows[2].id)).toEqual({ scene: 'chart', filter: 'nd8' });
    expect(placeOfRow(group.rows[3].id)).toEqual({ scene: 'chart', filter: null });
  });

  test('names a scene by its kind where its name doesn’t say it; leaves empty scenes out', () => {
    const two = smallSession({
      scenes: [
        { id: 'chart', kind: 'chart' },
        { id: 'lake', kind: 'water' },
      ],
      takes: [{ ...smallSession().takes[0], scene: 'lake' }],
    });
    expect(boardOf(two, () => null).map((group) => group.title)).toEqual(['Lake (water)']);
  });

  test('says what is missing', () => {
    show(<Footage view={viewOf(smallSession({ takes: smallSession().takes.slice(0, 2) }))} footage={NOTHING} />);
    const row = screen.getByRole('group', { name: 'ND8, Chart' });
    expect(within(row).getByText('no take yet')).toBeTruthy();
  });
});

test('a take as its row shows it', () => {
  const [take] = smallSession().takes;
  expect(asTyped({ ...take, setting: { ringDegrees: 30, mark: 2 } })).toMatchObject({ ringDegrees: '30', mark: '2' });
  expect(asTyped({ ...take, exposure: {} })).toMatchObject({ shutter: '', iso: '', fNumber: '' });
});

describe('practice with the stand-in', () => {
  test('asks for the chosen mishaps and lays the card', async () => {
    const laid = jest.fn(() => Promise.resolve());
    const sent = jest.fn((..._: unknown[]) =>
      Promise.resolve({ json: () => Promise.resolve({ files: [{ path: 'a' }] }) }),
    );
    globalThis.fetch = sent as never;
    const { user } = show(<Practice sessionId="s" onCard={laid} />);
    await user.click(screen.getByRole('checkbox', { name: 'one take is forgotten' }));
    await user.click(screen.getByRole('checkbox', { name: 'a cloud passes one take' }));
    await user.click(screen.getByRole('checkbox', { name: 'one take is forgotten' }));
    await user.click(screen.getByRole('button', { name: 'Shoot with the stand-in' }));
    await waitFor(() => expect(laid).toHaveBeenCalledWith([{ path: 'a' }]));
    expect(JSON.parse((sent.mock.calls[0][1] as { body: string }).body)).toEqual({ mishaps: ['cloud'] });
  });

  test('tells why it gave nothing', async () => {
    globalThis.fetch = jest.fn(() => Promise.resolve({ json: () => Promise.resolve({ error: 'No plan.' }) })) as never;
    const { user } = show(<Practice sessionId="s" onCard={() => Promise.resolve()} />);
    await user.click(screen.getByRole('button', { name: 'Shoot with the stand-in' }));
    await act(async () => undefined);
    expect(screen.getByRole('status').textContent).toBe('No plan.');
    expect(screen.getByRole('button', { name: 'Shoot with the stand-in' })).toHaveProperty('disabled', false);
  });
});
