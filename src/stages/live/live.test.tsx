/** @jest-environment jsdom */
/** The page Live: how a sitting stands, what is asked of it, and what is spoken. */
import { screen, waitFor, within } from '@testing-library/react';
import type { LiveState } from '@/server/live';
import { choose, show } from '@/ui/testing/render';
import { Live } from './Live';
import { aheadWords, labelWords, minutesInWords, missingWords, strengthWords, titleOf } from './words';

jest.mock('../intake/upload', () => ({
  Sending: class {
    constructor(readonly files: readonly { path: string }[]) {}
    done = async (take: (upload: string) => Promise<unknown>) => Promise.all(this.files.map(({ path }) => take(path)));
  },
  takeUpload: async (address: string, body: object) => {
    if ((body as { upload: string }).upload === 'full.jpg') throw new Error('The disk is full.');
    asked.push({ address, ...body });
  },
}));
// Drawings are looked at in the browser tests: jsdom has no sizes.
jest.mock('@/ui/charts/ChartFigure', () => ({
  ChartFigure: ({ title, rows }: { title: string; rows: readonly (readonly string[])[] }) => (
    <figure aria-label={title}>{rows.map((row) => row.join(' ')).join('; ')}</figure>
  ),
}));

const session = { title: 'A sitting', kits: [{ id: 'k', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: {} }] }], takes: [], scenes: [] }; // prettier-ignore
const bead = { filter: 'nd8', name: 'ND8', label: 3, labelSpan: null, parts: [], stops: { value: 3.05, u95: 0.03 }, pictures: 2, planned: 0, state: 'wide', more: 3, help: null } as const; // prettier-ignore
const alarm = { kind: 'clipped', takes: ['chart-nd8'], message: 'It is clipped.', advice: 'Shorten the shutter.', again: true } as const; // prettier-ignore
const STATE = {
  on: true,
  other: null,
  wanted: 0.02,
  view: {
    beads: [bead],
    alarms: [alarm],
    ahead: [{ planned: 'chart-nd8', filter: 'nd8', scene: 'chart', pictures: 2, why: 'again' }],
    again: ['chart-nd8'],
    minutes: 61,
    reached: 0,
  },
  light: [
    { scene: 'chart', take: 'b1', at: '2026-05-14T09:00:00Z', stops: 0 },
    { scene: 'chart', take: 'b2', at: '2026-05-14T09:06:00Z', stops: -0.03 },
  ],
  measuring: { state: 'done', progress: { done: 1, total: 1, take: null }, error: null },
  isCurrent: true,
  leftOut: [{ take: 'chart-nd4', files: ['a.jpg'], message: 'It was soft.', at: '2026-05-14T09:05:00Z' }],
  unlaid: [{ path: 'odd.jpg', why: 'It fits no take of this session.' }],
  placeless: [{ scene: 'flat', why: 'No even wall.' }],
} as unknown as LiveState;

let state: Partial<LiveState> & { error?: string } = STATE;
const asked: Record<string, unknown>[] = [];
beforeEach(() => {
  asked.length = 0;
  state = STATE;
  global.fetch = jest.fn(async (address: string, { body }: { body: string }) => {
    asked.push({ address, ...(JSON.parse(body) as object) });
    return { json: async () => (address.endsWith('/camera') ? { shot: 'chart-nd8' } : state) };
  }) as never;
});
const open = (isPlanned = true) => show(<Live sessionId="s" session={session as never} isPlanned={isPlanned} />);

test('what is spoiled comes first, with what to do; a press leaves it out', async () => {
  const { user } = open();
  expect(await screen.findByRole('heading', { level: 1, name: 'Something has to be shot again' })).toBeTruthy();
  const alarms = within(screen.getByRole('list', { name: 'Alarms' }));
  expect(alarms.getByText('Clipped')).toBeTruthy();
  expect(alarms.getByText('Shorten the shutter.')).toBeTruthy();
  expect(screen.getByTestId('next').textContent).toBe('ND8, chart: 2 pictures, again');
  expect(screen.getByText(/About 1 h 1 min to go/)).toBeTruthy();
  expect(screen.getByRole('list', { name: 'Left out' }).textContent).toContain('chart-nd4 was left out');
  expect(screen.getByText(/odd.jpg waits: It fits no take/)).toBeTruthy();
  expect(screen.getByText(/No places to measure on “flat”/)).toBeTruthy();
  expect(screen.getByRole('figure', { name: 'The light so far' }).textContent).toContain('b2 6.0 −0.03');
  expect(screen.getByRole('row', { name: /ND8/ }).textContent).toContain('3.05 ±0.0323 pictures more');
  await user.click(screen.getByRole('button', { name: /Leave chart-nd8 out/ }));
  expect(asked).toContainEqual({ address: '/api/sessions/s/live', do: 'again', take: 'chart-nd8', message: 'It is clipped.' }); // prettier-ignore
});

test('it is begun with a ±, ended, and says where another goes on', async () => {
  state = { ...STATE, on: false, other: 'o', view: { ...STATE.view, alarms: [] } };
  const { user } = open();
  expect(await screen.findByRole('heading', { level: 1, name: 'Look on while you shoot' })).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Another sitting' }).getAttribute('href')).toBe('/sessions/o/live');
  const field = screen.getByLabelText('± asked for, stops');
  await user.clear(field);
  expect(screen.getByRole('button', { name: 'Start' }).hasAttribute('disabled')).toBe(true);
  await user.type(field, '0.05');
  state = STATE;
  await user.click(screen.getByRole('button', { name: 'Start' }));
  expect(asked).toContainEqual({ address: '/api/sessions/s/live', do: 'start', wanted: 0.05 });
  await user.click(await screen.findByRole('button', { name: 'End and measure' }));
  expect(asked.at(-1)).toMatchObject({ do: 'end' });
});

test('the simulated camera shoots with a mistake; without a plan nothing can begin; an error is told', async () => {
  const { user, unmount } = open();
  await screen.findByRole('button', { name: 'Shoot the next take' });
  await choose(user, 'What goes wrong', 'focus');
  await user.click(screen.getByRole('button', { name: 'Shoot the next take' }));
  expect(await screen.findByText('Shot: chart-nd8')).toBeTruthy();
  expect(asked).toContainEqual({ address: '/api/sessions/s/camera', mistake: 'focus' });
  unmount();
  state = { error: 'There is no session s.' };
  open(false);
  expect((await screen.findByRole('alert')).textContent).toBe('There is no session s.');
  expect(screen.getByRole('link', { name: 'Plan a sitting' })).toBeTruthy();
});

test('pictures are added from the page itself, as if a watched folder had brought them; what fails is told', async () => {
  const { user } = open();
  const field = await screen.findByLabelText('More files');
  await user.upload(field, [new File(['x'], 'a.jpg'), new File(['y'], 'b.jpg')]);
  await waitFor(() =>
    expect(asked).toEqual(
      expect.arrayContaining([
        { address: '/api/sessions/s/live/pictures', upload: 'a.jpg' },
        { address: '/api/sessions/s/live/pictures', upload: 'b.jpg' },
      ]),
    ),
  );
  await user.upload(field, new File(['z'], 'full.jpg'));
  expect((await screen.findByRole('alert')).textContent).toBe('The disk is full.');
});

test('what has to be shot again is spoken once, where that is wanted', async () => {
  const said: string[] = [];
  Object.assign(global, {
    speechSynthesis: { speak: ({ text }: { text: string }) => said.push(text) },
    SpeechSynthesisUtterance: class {
      constructor(readonly text: string) {}
    },
  });
  state = { ...STATE, view: { ...STATE.view, alarms: [] } };
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Speak' }));
  state = STATE;
  await waitFor(() => expect(said).toEqual(['Clipped. Shorten the shutter.']));
  // What is beyond doubt is left out before anybody sees an alarm: it is said all the same, and what a person left out isn't.
  const out = { take: 'chart-nd8', files: [], at: '2026-05-14T09:08:00Z', message: 'It is clipped.' };
  const byItself = { ...out, kind: 'clipped', advice: 'Look which filter is on.' } as const;
  state = { ...STATE, view: { ...STATE.view, alarms: [] }, leftOut: [...STATE.leftOut, { ...out, take: 'chart-nd2' }, byItself] }; // prettier-ignore
  await waitFor(() => expect(said.slice(1)).toEqual(['chart-nd8: Clipped. Look which filter is on.']));
  expect(screen.getByRole('list', { name: 'Left out' }).textContent).toContain('It is clipped. Look which filter is on.'); // prettier-ignore
});

test('words', () => {
  const view = { ...STATE.view, alarms: [] };
  expect(titleOf({ ...view, reached: 1 }, 0.02)).toBe('Every filter is within ±0.02');
  expect(titleOf(view, 0.02)).toBe('0 of 1 filters within ±0.02');
  expect(titleOf({ ...view, ahead: [], beads: [{ ...bead, stops: null, pictures: 0 }] }, 0.02)).toBe(
    'Nothing is planned',
  );
  expect(aheadWords({ planned: null, filter: null, scene: 'chart', pictures: 1, why: 'bare' }, String)).toBe('Bare, chart: 1 picture, to close it in'); // prettier-ignore
  expect(minutesInWords(12.2)).toBe('13 min');
  expect(missingWords({ ...bead, state: 'stuck', more: null }, true)).toBe('more pictures won’t bring it closer');
  expect(missingWords({ ...bead, state: 'to shoot', pictures: 0, planned: 1 }, true)).toBe('to be shot');
  const laid = { ...bead, state: 'to shoot', pictures: 2 } as const;
  expect([missingWords(laid, false), missingWords(laid, true)]).toEqual(['being measured', 'these pictures tell no strength']); // prettier-ignore
});

test('what takes several strengths tells each with where it is taken', () => {
  const marks = [
    { at: 'mark 2', stops: { value: 2.04, u95: 0.06 } },
    { at: 'mark 5', stops: { value: 4.9, u95: 0.07 } },
  ];
  const variable = { ...bead, label: null, labelSpan: [2, 5], stops: null, parts: marks } as const;
  expect(strengthWords(variable)).toEqual([
    { at: 'mark 2', words: '2.04 ±0.06' },
    { at: 'mark 5', words: '4.90 ±0.07' },
  ]);
  expect(strengthWords(bead)).toEqual([{ at: '', words: '3.05 ±0.03' }]);
  expect([labelWords(variable), labelWords(bead), labelWords({ label: null, labelSpan: null })]).toEqual(['2.0–5.0', '3.0', '–']); // prettier-ignore
});

test('what comes next says where the ring has to stand', () => {
  const next = { planned: 'm3', filter: 'vnd', scene: 'chart', pictures: 2, why: 'planned' } as const;
  expect(aheadWords({ ...next, mark: 3 }, () => 'VND 2–5')).toBe('VND 2–5 at mark 3, chart: 2 pictures');
  expect(aheadWords({ ...next, ringDegrees: 30 }, () => 'CPL')).toBe('CPL at 30°, chart: 2 pictures');
});
