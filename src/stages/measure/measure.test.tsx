/** @jest-environment jsdom */
/** Measuring in the background: what is said while it runs, and what is asked of the server. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { forgetWays, went } from '@/ui/testing/navigation';
import { show } from '@/ui/testing/render';
import { plainReadings, readingsOf, smallSession, viewOf } from '@/ui/testing/sessions';
import type { MeasureJob } from './job';
import { Measure } from './Measure';

let answers: { measure: () => Promise<unknown>; cancel: () => Promise<unknown> };
let cancelled: number[];
jest.mock('@/server/sessionActions', () => ({
  measureAction: () => answers.measure(),
  cancelAction: (id: number) => (cancelled.push(id), answers.cancel()),
}));

/** The server's events, told by hand. */
class Events {
  static last: Events | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  closed = false;
  constructor(readonly address: string) {
    Events.last = this;
  }
  close() {
    this.closed = true;
  }
  tell(job: MeasureJob | null) {
    act(() => this.onmessage?.({ data: JSON.stringify(job) }));
  }
}
const job = (state: MeasureJob['state'], done = 0, more: Partial<MeasureJob> = {}): MeasureJob => ({
  id: 7,
  state,
  progress: { done, total: 4, take: done > 0 ? 'nd4' : null },
  error: null,
  cancelRequested: false,
  ...more,
});

beforeEach(() => {
  answers = { measure: () => Promise.resolve({ ok: true }), cancel: () => Promise.resolve({ ok: true }) };
  cancelled = [];
  Events.last = null;
  forgetWays();
  (globalThis as { EventSource?: unknown }).EventSource = Events;
});

test('asked for, followed picture by picture, and done', async () => {
  const { user } = show(<Measure view={viewOf()} job={null} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Ready to measure');
  await user.click(screen.getByRole('button', { name: 'Measure' }));
  await waitFor(() => expect(Events.last?.address).toBe('/api/sessions/session-1/progress'));
  Events.last!.tell(job('queued'));
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Waiting for the worker');
  Events.last!.tell(job('running', 2));
  expect(screen.getByText('2 of 4 pictures read, last nd4.')).toBeTruthy();
  expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('2');
  const rows = screen.getAllByRole('row').slice(1);
  expect(rows.map((row) => within(row).getAllByRole('cell')[2].textContent)).toEqual([
    '1 of 1',
    '1 of 1',
    '0 of 1',
    '0 of 1',
  ]);
  Events.last!.tell(job('done', 4));
  expect(Events.last!.closed).toBe(true);
  expect(went.refreshed).toBe(1);
});

test('what the server refuses is told', async () => {
  answers.measure = () => Promise.resolve({ ok: false, error: 'There is no session x.' });
  const { user } = show(<Measure view={viewOf()} job={null} />);
  await user.click(screen.getByRole('button', { name: 'Measure' }));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('There is no session x.'));
  answers.measure = () => Promise.reject(new TypeError('Failed to fetch'));
  await user.click(screen.getByRole('button', { name: 'Measure' }));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No connection to the server'));
});

test('cancelling: asked once, and its own refusal told', async () => {
  answers.cancel = () => Promise.resolve({ ok: false, error: 'It was done already.' });
  const { user } = show(<Measure view={viewOf()} job={job('running', 1)} />);
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(cancelled).toEqual([7]);
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('It was done already.'));
  Events.last!.tell(job('running', 1, { cancelRequested: true }));
  expect(screen.getByRole('button', { name: 'Cancel' })).toHaveProperty('disabled', true);
  Events.last!.tell(job('cancelled', 1));
  expect(screen.getByText(/Nothing was kept/)).toBeTruthy();
});

test.each([
  [{ readings: readingsOf([plainReadings('nd4', 2)]) }, 'Measured', 'Measure again', 'Read the verdict'],
  [
    { readings: readingsOf([plainReadings('nd4', 2)]), stale: 'changed' as const },
    'Something changed since it was measured',
    'Measure again',
    'Read the verdict',
  ],
])('what was measured before: %#', (more, title, again, read) => {
  show(<Measure view={viewOf(smallSession(), more)} job={null} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(title);
  expect(screen.getByRole('button', { name: again })).toBeTruthy();
  expect(screen.getByRole('link', { name: read }).getAttribute('href')).toBe('/sessions/session-1/verdict');
});

test('a failed job says why; a session without patches says where to go first', () => {
  const { unmount } = show(<Measure view={viewOf()} job={job('failed', 1, { error: 'The disk is full.' })} />);
  expect(screen.getByText('The disk is full.')).toBeTruthy();
  unmount();
  show(<Measure view={viewOf(smallSession({ patches: [] }))} job={null} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Not ready to measure yet');
  expect(screen.queryByRole('button', { name: 'Measure' })).toBeNull();
  const first = screen.getByRole('link', { name: 'Place the gray patch' });
  expect(first.getAttribute('href')).toBe('/sessions/session-1/regions');
});

test('faults of a take stand in its row', () => {
  const fault = { code: 'clipped', severity: 'error', takes: ['nd8'], message: '3 % of “gray” is clipped.' };
  const readings = readingsOf([plainReadings('nd8', 3, { faults: [fault as never] })]);
  show(<Measure view={viewOf(smallSession(), { readings })} job={null} />);
  expect(within(screen.getByRole('row', { name: /^nd8/ })).getByText(/is clipped/)).toBeTruthy();
});
