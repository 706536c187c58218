/** @jest-environment jsdom */
/** Kits side by side: order, how sure it is, weights that are kept. */
import { act, screen, within } from '@testing-library/react';
import { DEFAULT_BANDS } from '@/core/judging/rating/bands';
import { PRESETS, type Ranking as Order } from '@/core/judging/ranking/rank';
import type { MeasuredSession } from '@/server/across';
import { choose, show } from '@/ui/testing/render';
import { plainReadings } from '@/ui/testing/sessions';
import { Ranking } from './Ranking';
import { stabilityOf, titleOf } from './words';

let kept: unknown[];
jest.mock('@/server/judgeActions', () => ({
  keepWeightsAction: (weights: unknown) => (kept.push(weights), Promise.resolve({ ok: true })),
}));
// Charts draw on a canvas that jsdom has not; what they draw is tested with their options.
jest.mock('./RankingCharts', () => ({ RankingCharts: () => null }));
beforeEach(() => {
  kept = [];
});
const settle = () => act(() => new Promise((done) => setTimeout(done, 650)));

function session(id: string, kit: string, off: number, stale: MeasuredSession['stale'] = null): MeasuredSession {
  const filters = [2, 3, 4].map((stops) => ({
    id: `${kit}-${stops}`,
    name: `ND${2 ** stops}`,
    kind: 'nd' as const,
    nominal: { stops },
  }));
  return {
    id,
    title: `Sitting of ${kit}`,
    day: null,
    measuredAt: '2026-05-14T12:00:00Z',
    stale,
    sittings: [
      {
        session: id,
        title: `Sitting of ${kit}`,
        kit: { id: kit, name: kit, filters },
        readings: filters.map((filter, i) => plainReadings(filter.id, 2 + i + off, { kit })),
      },
    ] as never,
  };
}
const names = () =>
  within(screen.getByTestId('ranking'))
    .getAllByRole('heading')
    .map((one) => one.textContent);

test('the kit that does what its labels say comes first, and the page says how sure that is', () => {
  show(<Ranking sessions={[session('a', 'Off Set', 0.4), session('b', 'True Set', 0.01)]} bands={DEFAULT_BANDS} kept={null} />); // prettier-ignore
  expect(names()).toEqual(['True Set', 'Off Set']);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('True Set comes first');
  expect(screen.getByText(/keeps the first place in 100 % of 2,000 draws/)).toBeTruthy();
});

test('weights change the order’s figures and are kept a moment later', async () => {
  const { user } = show(<Ranking sessions={[session('a', 'Off Set', 0.4), session('b', 'True Set', 0)]} bands={DEFAULT_BANDS} kept={null} />); // prettier-ignore
  const scores = () => screen.getAllByTestId('score').map((one) => Number(one.textContent));
  const before = scores();
  const field = screen.getByRole('spinbutton', { name: 'Weight of strength as labelled' });
  await user.clear(field);
  await user.type(field, '10');
  await settle();
  expect(scores()[1]).toBeLessThan(before[1]);
  expect((kept.at(-1) as { qualities: { strength: number } }).qualities.strength).toBe(10);
  expect(screen.getByText('Weights of your own.')).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: 'Neutral first' }));
  await settle();
  expect(kept.at(-1)).toEqual(PRESETS['neutral first'].weights);
  await choose(user, /wasn’t measured of a kit/, 'counts as the worst');
  await settle();
  expect((kept.at(-1) as { unmeasured: string }).unmeasured).toBe('as worst');
});

test('weights beyond their ends are brought back to them', async () => {
  const { user } = show(<Ranking sessions={[session('a', 'Set', 0)]} bands={DEFAULT_BANDS} kept={null} />);
  const field = screen.getByRole('spinbutton', { name: 'Weight of little cast' });
  await user.clear(field);
  await user.type(field, '99');
  await settle();
  expect((kept.at(-1) as { qualities: { cast: number } }).qualities.cast).toBe(10);
});

test('a sitting from before a change is left out at first, and can be taken in', async () => {
  const { user } = show(<Ranking sessions={[session('a', 'Old Set', 0, 'changed'), session('b', 'True Set', 0)]} bands={DEFAULT_BANDS} kept={null} />); // prettier-ignore
  expect(names()).toEqual(['True Set']);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('True Set stands alone');
  const box = screen.getByRole('checkbox', { name: /^Sitting of Old Set/ });
  expect(box.getAttribute('aria-checked')).toBe('false');
  await user.click(box);
  expect(names().sort()).toEqual(['Old Set', 'True Set']);
});

test('nothing measured leads to a session', () => {
  show(<Ranking sessions={[]} bands={DEFAULT_BANDS} kept={null} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Nothing to rank yet');
});

describe('words', () => {
  const ranked = (name: string, first: number) => ({ kit: { name }, ranks: [first, 1 - first] });
  const order = (kits: unknown[], swaps: unknown[] = []) => ({ kits, swaps, unranked: [] }) as unknown as Order;

  test('too near to tell below four draws in five', () => {
    expect(titleOf(order([ranked('A', 0.79), ranked('B', 0.21)]))).toBe('A or B: too near to tell');
    expect(titleOf(order([ranked('A', 0.8), ranked('B', 0.2)]))).toBe('A comes first');
    expect(titleOf(order([]))).toBe('No kit can be ranked by these weights');
  });

  test('what would turn it', () => {
    const two = [ranked('A', 0.9), ranked('B', 0.1)];
    expect(stabilityOf(order(two, [{ quality: 'cast', from: 5, to: 2.5 }]))).toContain('B would pass it if cast counted 2.5 instead of 5.0.'); // prettier-ignore
    expect(stabilityOf(order(two))).toContain('No single weight would bring B past it.');
    expect(stabilityOf(order([two[0]]))).toBe('A ranking needs two kits at least.');
  });
});
