/** @jest-environment jsdom */
/** The run sheet: one take at a time; taps are shown at once, kept, and sent when there is a line. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { plannedOf } from '@/core/sitting/planning/planned';
import { planRequestSchema, makePlan } from '@/core/sitting/planning/plan';
import type { LiveSheet } from '@/server/liveSheet';
import { show } from '@/ui/testing/render';
import { smallSession } from '@/ui/testing/sessions';
import { CameraClock } from './CameraClock';
import { PairPhone } from './PairPhone';
import { RunSheet } from './RunSheet';
import { clockOf, placeOf } from './words';

type Entry = { id: string; kind: string; take?: string; text?: string; setting?: object };
/** The phone's own store, as far as a page asks it. */
let mockKept: { session: string; entry: Entry; sent: boolean }[];
jest.mock('./queue', () => ({
  keep: async (session: string, entry: Entry) => void mockKept.push({ session, entry, sent: false }),
  known: async () => mockKept.map((one) => one.entry),
  waiting: async () => mockKept.filter((one) => !one.sent).map((one) => one.entry),
  noteSent: async (_: string, entries: Entry[]) => {
    for (const one of mockKept) if (entries.some((entry) => entry.id === one.entry.id)) one.sent = true;
  },
  tapId: () => `tap-${mockKept.length}-${'x'.repeat(8)}`,
}));
let paired: [string, ...unknown[]][];
let pairing: Record<string, unknown>;
let mockPhones: object[];
jest.mock('@/server/pairingActions', () => ({
  pairAction: (...words: unknown[]) => (paired.push(['pair', ...words]), Promise.resolve(pairing)),
  phonesAction: () => Promise.resolve({ lan: true, phones: mockPhones }),
  revokeAction: (...words: unknown[]) => (paired.push(['revoke', ...words]), Promise.resolve({ ok: true })),
}));

let line: boolean;
let sent: Entry[];
let live: LiveSheet;
beforeEach(() => {
  mockKept = [];
  paired = [];
  pairing = {
    ok: true,
    address: 'http://192.168.1.2:8421/pair/abc',
    svg: '<svg></svg>',
    others: [],
    until: '2026-05-14T09:10:00Z',
  };
  mockPhones = [{ id: 3, name: 'Anna’s phone', made: '2026-05-14T09:00:00Z', seen: null }];
  line = true;
  sent = [];
  live = { on: false, title: '', alarms: [], waits: [], measuring: false, laid: [] };
  globalThis.fetch = jest.fn((address: string, asked: { body: string }) => {
    if (!line) return Promise.reject(new TypeError('Failed to fetch'));
    if (address.endsWith('/live/sheet')) return Promise.resolve({ status: 200, json: () => Promise.resolve(live) });
    sent = (JSON.parse(asked.body) as { entries: Entry[] }).entries;
    return Promise.resolve({ json: () => Promise.resolve({ entries: sent }) });
  }) as never;
});

const request = planRequestSchema.parse({
  title: 'Bench',
  kit: smallSession().kits[0],
  rig: { widest: 2.8, fixedAperture: false, baseIso: 100, highestIso: 3200, fastest: 1 / 8000, slowest: 1, step: 1 / 3, usableStops: 8, shutterMarks: 'nominal' },
  protocol: 'matched',
  order: 'lightest',
  scenes: ['chart'],
  ev100: 9,
  fNumber: 2.8,
  repeats: 2,
  bareEvery: 2,
  ringAngles: 7,
  minutesPerTake: 1,
  whiteBalance: 'locked',
  exposeFor: 'middle',
  slowest: 1,
  lenses: {},
  checklist: [],
}); // prettier-ignore
const planned = () => smallSession({ takes: [], plan: { request, takes: makePlan(request).takes } });
const title = () => screen.getByRole('heading', { level: 1 }).textContent;
const draw = () => show(<RunSheet sessionId="s" session={planned()} />);

describe('a live sitting', () => {
  const bare = plannedOf(planned())[0].id;
  const alarm = { kind: 'clipped' as const, takes: ['chart-nd4'], advice: 'Shorten the shutter.' };

  test('says what to do before the next take, and takes pictures', async () => {
    live = { on: true, title: '1 of 2 filters within ±0.02', alarms: [alarm], waits: ['odd.jpg waits: It fits no take.'], measuring: true, laid: [bare] }; // prettier-ignore
    draw();
    // Its first take is there, though nobody tapped: the second is at hand.
    await waitFor(() => expect(title()).toBe('ND4'));
    expect(screen.getByText(/^1 of \d takes shot/)).toBeTruthy();
    const section = within(await screen.findByRole('region', { name: 'Live' }));
    expect(section.getByText('Live: 1 of 2 filters within ±0.02 · measuring …')).toBeTruthy();
    const lines = section.getAllByRole('listitem').map((one) => one.textContent);
    expect(lines).toEqual(['Clippedchart-nd4Shorten the shutter.', 'odd.jpg waits: It fits no take.']);
    expect(within(screen.getByRole('region', { name: 'Pictures' })).getByRole('button', { name: /Add files/ })).toBeTruthy(); // prettier-ignore
  });

  test('is not there while none goes on, nor without a line', async () => {
    draw();
    await waitFor(() =>
      expect(globalThis.fetch).toHaveBeenCalledWith('/api/sessions/s/live/sheet', { method: 'POST' }),
    );
    expect(screen.queryByRole('region', { name: 'Live' })).toBeNull();
    expect(screen.queryByRole('region', { name: 'Pictures' })).toBeNull();
  });

  test('who may only look is asked no more', async () => {
    const looks: string[] = [];
    globalThis.fetch = jest.fn((address: string) => {
      if (address.endsWith('/sheet')) looks.push(address);
      return Promise.resolve({ status: 403, json: () => Promise.resolve({ entries: [], ...{ on: true } }) });
    }) as never;
    draw();
    await waitFor(() => expect(looks).toHaveLength(1));
    expect(screen.queryByRole('region', { name: 'Live' })).toBeNull();
  });
});

describe('the sheet', () => {
  test('walks through the takes as they are done', async () => {
    const { user } = draw();
    const takes = within(screen.getByRole('list', { name: 'All takes' })).getAllByRole('button');
    expect(title()).toBe('bare');
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(title()).toBe('ND4'));
    expect(screen.getByRole('progressbar', { name: 'Takes done' }).getAttribute('aria-valuenow')).toBe('1');
    for (let i = 1; i < takes.length; i++) await user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(title()).toBe('All done'));
    expect(sent.length + mockKept.filter((one) => one.sent).length).toBeGreaterThan(0);
    expect(screen.getByText('all sent')).toBeTruthy();
  });

  test('without a line taps wait, and go when it is back', async () => {
    line = false;
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(screen.getByText('1 tap waits for a line')).toBeTruthy());
    expect(title()).toBe('ND4');
    line = true;
    act(() => void window.dispatchEvent(new Event('online')));
    await waitFor(() => expect(screen.getByText('all sent')).toBeTruthy());
    expect(sent.map((one) => one.kind)).toEqual(['done']);
  });

  test('a refusal is told, and the tap stays', async () => {
    globalThis.fetch = jest.fn(() => Promise.resolve({ json: () => Promise.resolve({ error: 'There is no session s.' }) })) as never; // prettier-ignore
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('There is no session s.'));
    expect(mockKept).toHaveLength(1);
  });

  test('a skip, a cloud, a wrong setting, a note: each told on its take', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Cloud' }));
    await user.click(screen.getByRole('button', { name: 'Wrong setting' }));
    await user.type(screen.getByLabelText('Note, kept with the next tap'), 'edge of a cloud');
    await user.click(screen.getByRole('button', { name: 'Skip' }));
    const [first] = within(screen.getByRole('list', { name: 'All takes' })).getAllByRole('listitem');
    await waitFor(() => expect(first.textContent).toContain('skipped'));
    expect(first.textContent).toContain('edge of a cloud');
    expect(first.textContent).toContain('cloud, wrong setting');
  });

  test('the last tap is taken back', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(title()).toBe('ND4'));
    await user.click(screen.getByRole('button', { name: /^Take back “done” of/ }));
    await waitFor(() => expect(title()).toBe('bare'));
    expect(mockKept.map((one) => one.entry.kind)).toEqual(['done', 'undo']);
  });

  test('a dial that stood otherwise is stepped in the rig’s steps', async () => {
    const { user } = draw();
    const iso = within(screen.getByRole('group', { name: 'ISO' }));
    expect(iso.getByText('100')).toBeTruthy();
    await user.click(iso.getByRole('button', { name: 'More ISO' }));
    await waitFor(() => expect(mockKept.at(-1)!.entry.setting).toMatchObject({ iso: expect.closeTo(126, 0) }));
  });

  test('any take can be chosen from the list', async () => {
    const { user } = draw();
    await user.click(within(screen.getByRole('list', { name: 'All takes' })).getByRole('button', { name: /ND8/ }));
    expect(title()).toBe('ND8');
  });

  test('a session without a plan says so', () => {
    show(<RunSheet sessionId="s" session={smallSession()} />);
    expect(title()).toBe('This session has no plan to shoot.');
  });
});

describe('the camera’s clock', () => {
  test('what it shows is noted; what is no time is not', async () => {
    const noted = jest.fn();
    const { user } = show(<CameraClock offset={-90_000} onNote={noted} />);
    expect(screen.getByText('Noted: the camera is 90 s behind.')).toBeTruthy();
    const field = screen.getByLabelText('The camera’s clock shows');
    await user.type(field, 'noon');
    await user.click(screen.getByRole('button', { name: 'Note it' }));
    expect(noted).not.toHaveBeenCalled();
    await user.clear(field);
    await user.type(field, '14:05:30');
    await user.click(screen.getByRole('button', { name: 'Note it' }));
    const at = new Date(noted.mock.calls[0][0] as string);
    expect([at.getHours(), at.getMinutes(), at.getSeconds()]).toEqual([14, 5, 30]);
  });
});

describe('phones', () => {
  test('a code is shown until a phone has used it; then the phone stands in the list by its name', async () => {
    mockPhones = [];
    const { user } = show(<PairPhone sessionId="s" />);
    await user.click(screen.getByRole('button', { name: 'Pair a phone' }));
    await waitFor(() => expect(screen.getByRole('img', { name: /^QR code of http/ })).toBeTruthy());
    expect(screen.getByText(/It pairs one phone, until \d\d:\d\d:\d\d/)).toBeTruthy();
    expect(screen.getByText('No phone is paired.')).toBeTruthy();
    mockPhones = [{ id: 3, name: 'Anna’s phone', made: '2026-05-14T09:00:00Z', seen: '2026-05-14T09:01:00Z' }];
    await waitFor(() => expect(screen.getByText('Anna’s phone')).toBeTruthy(), { timeout: 20_000 });
    expect(screen.queryByRole('img')).toBeNull();
  }, 60_000);

  test('where a phone learns to trust the desk, and by what it knows the root', async () => {
    mockPhones = [];
    pairing = { ...pairing, root: { address: 'http://192.168.1.7:8423', fingerprint: 'AB:CD:EF' } };
    const { user } = show(<PairPhone sessionId="s" />);
    await user.click(screen.getByRole('button', { name: 'Pair a phone' }));
    const words = (await screen.findByRole('figure')).textContent;
    expect(words).toContain(
      'Open http://192.168.1.7:8423 on it first, and trust this desk once; its root’s SHA-256 is AB:CD:EF.',
    );
  });

  test('a refusal is told', async () => {
    pairing = { ok: false, error: 'Phones are not let in: start the desk with ./glade up --lan.' };
    const { user } = show(<PairPhone sessionId="s" />);
    await user.click(screen.getByRole('button', { name: 'Pair a phone' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('--lan'));
    expect(screen.queryByRole('img')).toBeNull();
  });

  test('revoked only after it was asked', async () => {
    const { user } = show(<PairPhone sessionId="s" />);
    await user.click(screen.getByRole('button', { name: 'Show paired phones' }));
    await user.click(await screen.findByRole('button', { name: 'Revoke Anna’s phone' }));
    await user.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(paired).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Revoke Anna’s phone' }));
    await user.click(screen.getByRole('button', { name: 'Revoke it' }));
    await waitFor(() => expect(paired).toEqual([['revoke', 's', 3]]));
  });
});

test('a take’s place, and a moment as a clock shows it', () => {
  expect(placeOf({ scene: 'screen', ringDegrees: 30, mark: 2 } as never)).toBe('screen, ring 30°, mark 2');
  expect(placeOf({ scene: 'chart' } as never)).toBe('chart');
  expect(clockOf(new Date(2026, 4, 14, 9, 5, 3).getTime())).toBe('09:05:03');
});
