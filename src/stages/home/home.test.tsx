/** @jest-environment jsdom */
/** The list of sessions: what comes next for each, and what is put away. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { show } from '@/ui/testing/render';
import { Home } from './Home';
import { addressOf, EVERYTHING, inOrder, listed, wantedOf, type HomeSession } from './listed';

let asked: unknown[];
let answer: () => Promise<unknown>;
jest.mock('@/server/sessionActions', () => ({
  putAwayAction: (...words: unknown[]) => (asked.push(words), answer()),
}));
const mockRefresh = jest.fn();
const mockReplace = jest.fn();
const mockRouter = { refresh: mockRefresh, replace: mockReplace };
jest.mock('next/navigation', () => ({ useRouter: () => mockRouter }));
beforeEach(() => {
  asked = [];
  answer = () => Promise.resolve({ ok: true });
  mockReplace.mockClear();
});
const session = (id: string, more: Partial<HomeSession> = {}): HomeSession => ({
  id,
  title: `Bench ${id}`,
  takes: 4,
  filters: 2,
  createdAt: '2026-05-14T09:00:00Z',
  beads: [],
  measured: false,
  finding: null,
  placed: true,
  day: '2026-05-14',
  place: null,
  kits: ['Foundry Set'],
  camera: 'Bench camera',
  ...more,
});

test.each([
  [{ measured: true, finding: 'ND8 is true.' }, 'Read the verdict', 'verdict'],
  [{ takes: 0, plan: { planned: 9, done: 2, skipped: 0, left: 7 } }, 'Shoot the plan', 'plan'],
  [{ takes: 0, plan: null }, 'Drop the footage', 'footage'],
  [{ placed: false }, 'Place the patch', 'regions'],
  [{}, 'Measure', 'measure'],
])('the next step of %j is “%s”', (more, words, path) => {
  show(<Home sessions={[session('a', more)]} more={0} />);
  const row = within(screen.getByRole('listitem'));
  const finding = 'finding' in more ? more.finding : 'Not measured yet';
  expect(row.getByRole('link', { name: words }).getAttribute('href')).toBe(`/sessions/a/${path}`);
  expect(row.getByText(new RegExp(finding))).toBeTruthy();
});

test('a camera’s check leads to its rig', () => {
  show(<Home sessions={[session('a', { check: { rig: 'R', profile: 1 }, measured: true, takes: 22 })]} more={0} />);
  expect(screen.getByRole('link', { name: 'Look at the check' }).getAttribute('href')).toBe(
    '/rigs/R/check?profile=1&session=a',
  );
  expect(screen.getByText(/camera check, 22 pictures/)).toBeTruthy();
});

test('put away, told with a way back; brought back by it', async () => {
  const { user } = show(<Home sessions={[session('a')]} more={0} />);
  await user.click(screen.getByRole('button', { name: 'Put “Bench a” away' }));
  await waitFor(() =>
    expect(screen.getAllByText(/“Bench a” is put away and kept for 30 days/).length).toBeGreaterThan(0),
  );
  await user.click(screen.getByRole('button', { name: 'Bring it back' }));
  expect(asked).toEqual([
    ['a', true],
    ['a', false],
  ]);
});

test('a refusal is told', async () => {
  answer = () => Promise.resolve({ ok: false, error: 'There is no session a.' });
  const { user } = show(<Home sessions={[session('a')]} more={0} />);
  await user.click(screen.getByRole('button', { name: 'Put “Bench a” away' }));
  await waitFor(() => expect(screen.getAllByText('There is no session a.').length).toBeGreaterThan(0));
});

test('an empty list says how one begins; a long one what it leaves out', () => {
  const { unmount } = show(<Home sessions={[]} more={0} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('No sessions yet');
  expect(screen.getByText(/glade demo/)).toBeTruthy();
  unmount();
  show(<Home sessions={[session('a')]} more={12} />);
  expect(screen.getByText('12 older sessions are not shown.')).toBeTruthy();
});

describe('while the demo is being made', () => {
  test('the first page says how far it is, and looks again by itself', async () => {
    jest.useFakeTimers();
    show(<Home sessions={[]} more={0} demo={{ made: 3, of: 9 }} />);
    expect(screen.getByText(/3 of 9 sittings are there/)).toBeTruthy();
    expect(screen.getByRole('progressbar', { name: 'The demo' }).getAttribute('aria-valuenow')).toBe('3');
    expect(screen.queryByText(/glade demo/)).toBeNull();
    expect(mockRefresh).not.toHaveBeenCalled();
    jest.advanceTimersByTime(3_100);
    expect(mockRefresh).toHaveBeenCalledTimes(1);
    jest.useRealTimers();
  });

  test('afterwards nothing of it is left', () => {
    show(<Home sessions={[session('a')]} more={0} />);
    expect(screen.queryByRole('progressbar')).toBeNull();
  });
});

test.each([
  [null, /^No backup yet\. .*glade backup/],
  ['2026-11-28T03:00:12.000Z', /^Last backup: 2026-11-28, 03:00 UTC\./],
])('the last backup: %s', (backup, words) => {
  show(<Home sessions={[session('a')]} more={0} backup={backup} />);
  const note = screen.getByText((_, element) => element?.tagName === 'P' && words.test(element.textContent ?? ''));
  expect(note).toBeTruthy();
});

describe('a long list', () => {
  const LIST = [
    session('a', { title: 'Weir 10', kits: ['Harbour Six'], day: '2026-05-02', camera: 'Field camera' }),
    session('b', { title: 'weir 2', place: 'Ashwick Quarry', day: '2026-05-20' }),
    session('c', { title: 'Dam', finding: 'Both labels are true', measured: true, day: '2026-04-01' }),
  ];
  const shown = () => screen.queryAllByRole('listitem').map((row) => within(row).getAllByRole('link')[0].textContent);

  test.each([
    [{ text: 'weir' }, ['a', 'b']],
    [{ text: 'QUARRY weir' }, ['b']],
    [{ text: 'labels true' }, ['c']],
    [{ text: '2026-05' }, ['a', 'b']],
    [{ kit: 'Harbour Six' }, ['a']],
    [{ camera: 'Bench camera' }, ['b', 'c']],
    [{ sort: 'title' as const }, ['c', 'b', 'a']],
    [{ sort: 'day of the sitting' as const }, ['b', 'a', 'c']],
    [{ text: 'nothing like it' }, []],
  ])('%j', (wanted, ids) => expect(listed(LIST, { ...EVERYTHING, ...wanted }).map((one) => one.id)).toEqual(ids));

  test('is searched by key, and shown again whole', async () => {
    const { user } = show(<Home sessions={LIST} more={0} />);
    await user.keyboard('/weir');
    expect(screen.getByLabelText<HTMLInputElement>('Search sessions').value).toBe('weir');
    expect(shown()).toEqual(['Weir 10', 'weir 2']);
    await user.keyboard(' of old');
    expect(shown()).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Show all' }));
    expect(shown()).toHaveLength(3);
  });

  test('several are put away at once; one that can’t be is told by its name', async () => {
    const { user } = show(<Home sessions={LIST} more={0} />);
    await user.click(screen.getByRole('checkbox', { name: 'Choose “Dam”' }));
    await user.click(screen.getByRole('checkbox', { name: 'Choose “weir 2”' }));
    await user.click(screen.getByRole('button', { name: 'Put 2 away' }));
    await waitFor(() => expect(screen.getAllByText(/2 sessions are put away/).length).toBeGreaterThan(0));
    expect(asked).toEqual([
      ['b', true],
      ['c', true],
    ]);
    await user.click(screen.getByRole('button', { name: 'Bring them back' }));
    await waitFor(() =>
      expect(asked.slice(2)).toEqual([
        ['b', false],
        ['c', false],
      ]),
    );
    answer = () => Promise.resolve({ ok: false, error: 'It is gone.' });
    await user.click(screen.getByRole('checkbox', { name: 'Choose “Dam”' }));
    await user.click(screen.getByRole('button', { name: 'Put 1 away' }));
    await waitFor(() => expect(screen.getAllByText('“Dam”: It is gone.').length).toBeGreaterThan(0));
  });

  test('of many more, a hundred are shown by a press; each leads to its details', () => {
    show(<Home sessions={LIST} more={250} />);
    expect(screen.getByRole('link', { name: 'Show 100 more' }).getAttribute('href')).toBe('/?shown=103');
    expect(screen.getByRole('link', { name: 'Details of “Dam”' }).getAttribute('href')).toBe('/sessions/c/details');
    expect(screen.getByText(/2026-05-20 · Ashwick Quarry · Foundry Set · 2 filters, 4 takes/)).toBeTruthy();
  });
});

describe('a library of which a part is here', () => {
  const LIST = [session('a', { title: 'Weir 10' }), session('b', { title: 'Dam' })];

  test('is searched whole, a moment after typing; what is here and fits is shown meanwhile', async () => {
    const { user, rerender } = show(<Home sessions={LIST} more={9_998} />);
    await user.keyboard('/weir');
    expect(screen.getAllByRole('listitem')).toHaveLength(1);
    expect(screen.getByText('Looking through all sessions …')).toBeTruthy();
    await waitFor(() => expect(mockReplace.mock.calls).toEqual([['/?text=weir', { scroll: false }]]));
    const found = [LIST[0], session('z', { title: 'Weir 1' })];
    rerender(<Home sessions={found} more={0} asked={{ ...EVERYTHING, text: 'weir' }} />);
    expect(screen.getAllByRole('listitem')).toHaveLength(2);
    expect(screen.queryByText('Looking through all sessions …')).toBeNull();
    // The words stay where they were typed.
    expect(screen.getByLabelText<HTMLInputElement>('Search sessions').value).toBe('weir');
    await user.clear(screen.getByLabelText('Search sessions'));
    await waitFor(() => expect(mockReplace).toHaveBeenLastCalledWith('/', { scroll: false }));
  });

  test('the first page anew, by a way back, forgets what was searched', () => {
    const { rerender } = show(<Home sessions={[LIST[0]]} more={0} asked={{ ...EVERYTHING, text: 'weir' }} />);
    rerender(<Home sessions={LIST} more={9_998} />);
    expect(screen.getByLabelText<HTMLInputElement>('Search sessions').value).toBe('');
    expect(screen.getAllByRole('listitem')).toHaveLength(2);
    expect(mockReplace).not.toHaveBeenCalled();
  });

  test('nothing found is no empty library; what can’t be found yet is told', () => {
    show(<Home sessions={[]} more={0} asked={{ ...EVERYTHING, text: 'weir' }} isBehind />);
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Sessions');
    expect(screen.getByText(/No session is like that/)).toBeTruthy();
    expect(screen.getByText(/still being made ready for searching/)).toBeTruthy();
  });

  test('more of what was found are a press away', () => {
    const asked = { ...EVERYTHING, text: 'weir', sort: 'title' as const };
    show(<Home sessions={[LIST[0]]} more={300} asked={asked} />);
    expect(screen.getByText(/300 more sessions are not shown/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Show 100 more' }).getAttribute('href')).toBe(
      '/?text=weir&sort=title&shown=101',
    );
  });

  test.each([
    [{}, EVERYTHING, '/'],
    [{ text: ' weir 2 ', sort: 'title' }, { ...EVERYTHING, text: 'weir 2', sort: 'title' }, '/?text=weir+2&sort=title'],
    [{ sort: 'by magic', kit: ['Harbour Six', 'x'] }, { ...EVERYTHING, kit: 'Harbour Six' }, '/?kit=Harbour+Six'],
  ])('an address %j', (address, wanted, again) => {
    expect(wantedOf(address)).toEqual(wanted);
    expect(addressOf(wantedOf(address))).toBe(again);
  });

  test('names stand as people look for them', () =>
    expect(inOrder(['Kit 10', 'kit 2', 'Harbour'])).toEqual(['Harbour', 'kit 2', 'Kit 10']));
});

/** The lines that the page has opened to the server. */
const lines: { address: string; closed: boolean; onmessage: ((event: { data: string }) => void) | null }[] = [];
(globalThis as { EventSource?: unknown }).EventSource = class {
  closed = false;
  onmessage: ((event: { data: string }) => void) | null = null;
  constructor(public address: string) {
    lines.push(this);
  }
  close() {
    this.closed = true;
  }
};

describe('what waits', () => {
  beforeEach(() => void (lines.length = 0));

  const job = { kind: 'job', session: 'a', title: 'Bench a', done: 3, total: 12 } as const;
  const told = () =>
    within(screen.getByRole('list', { name: 'Waiting' }))
      .getAllByRole('listitem')
      .map((row) => [row.textContent, within(row).getByRole('link').getAttribute('href')]);

  test('is told with the step that goes on with it', () => {
    show(
      <Home
        sessions={[session('a')]}
        more={0}
        waiting={[
          { kind: 'files', count: 12 },
          job,
          { kind: 'failed', session: 'b', title: 'Bench b' },
          { kind: 'taps', session: 'c', title: 'Bench c', left: 1 },
          { kind: 'footage', session: 'd', title: 'Bench d' },
        ]}
      />,
    );
    expect(told()).toEqual([
      ['12 files have arrivedSort them', '/sessions/new'],
      ['“Bench a” is being measuredWatch', '/sessions/a/measure'],
      ['“Bench b” could not be measuredSee why', '/sessions/b/measure'],
      ['“Bench c”: 1 take left to shootShoot on', '/sessions/c/shoot'],
      ['“Bench d” is shotDrop its footage', '/sessions/d/footage'],
    ]);
    expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('3');
  });

  const tell = (state: string, done = 3) =>
    act(() => lines[0].onmessage!({ data: JSON.stringify({ state, progress: { done, total: 12, take: null } }) }));

  test('a measurement is followed, and the list below it doesn’t move', () => {
    const { rerender } = show(<Home sessions={[session('a')]} more={0} waiting={[job]} />);
    expect(lines.map(({ address }) => address)).toEqual(['/api/sessions/a/progress']);
    tell('running', 9);
    expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('9');
    rerender(<Home sessions={[session('a')]} more={0} waiting={[{ kind: 'files', count: 2 }]} />);
    expect(told()).toEqual([['“Bench a” is being measuredWatch', '/sessions/a/measure']]);
    tell('done', 12);
    expect(told()).toEqual([['“Bench a” is measuredRead the verdict', '/sessions/a/verdict']]);
    expect(lines[0].closed).toBe(true);
  });

  test('one that fails or is stopped meanwhile is told', () => {
    const { unmount } = show(<Home sessions={[session('a')]} more={0} waiting={[job]} />);
    tell('failed');
    expect(told()).toEqual([['“Bench a” could not be measuredSee why', '/sessions/a/measure']]);
    unmount();
    lines.length = 0;
    show(<Home sessions={[session('a')]} more={0} waiting={[job]} />);
    tell('cancelled');
    expect(told()).toEqual([['Measuring “Bench a” was stoppedMeasure it', '/sessions/a/measure']]);
    expect(lines[0].closed).toBe(true);
  });

  test('of many measurements two are followed: a browser has few lines', () => {
    show(<Home sessions={[]} more={1} waiting={['a', 'b', 'c'].map((id) => ({ ...job, session: id, title: id }))} />);
    expect(told()).toHaveLength(3);
    expect(lines).toHaveLength(2);
  });

  test('nothing waits: nothing is shown', () => {
    show(<Home sessions={[session('a')]} more={0} />);
    expect(screen.queryByRole('list', { name: 'Waiting' })).toBeNull();
  });
});
