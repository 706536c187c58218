/** @jest-environment jsdom */
/** What to carry: what is typed, chosen and remembered, and what is said of it. */
import { screen, waitFor, within } from '@testing-library/react';
import { NEW_RIG, planRigOf } from '@/core/sitting/kits/keptRig';
import type { PickKit, PickRig } from '@/server/pickList';
import { choose, show } from '@/ui/testing/render';
import { workOf } from '@/core/judging/carry/asked';
import { offersOf } from './answer';
import { FIRST, FIRST_WORK, keepAsked, lastAsked, ofRig } from './asked';
import { Carry } from './Carry';
import { workInWords, monthsInWords, shareInWords, shortfallInWords, shortNames, strengthOf, titleOf } from './words';

// Drawings are looked at in the browser tests: jsdom has no sizes.
jest.mock('@/ui/charts/ChartFigure', () => ({
  ChartFigure: ({ title, rows }: { title: string; rows: readonly (readonly string[])[] }) => (
    <figure aria-label={title}>{rows.map((row) => row.join(' ')).join('; ')}</figure>
  ),
}));

const kit = (id: string, name: string, filters: Partial<PickKit['filters'][number]>[], measured = filters.length): PickKit => ({ id, name, measured, stale: false, filters: filters.map((one) => ({ id: one.name!, name: '', stops: null, u95: 0.01, kind: 'nd', ...one })) }); // prettier-ignore
const STEPS = kit(
  'steps',
  'Steps',
  [2, 4, 6, 8].map((stops) => ({ name: `ND${2 ** stops}`, stops: stops + 0.05 })),
);
const MIXED = kit('mixed', 'Mixed', [
  { name: 'Turning', stops: 2, u95: 0.02, kind: 'variable-nd', curve: [[1, 2], [5, 6.5]] }, // prettier-ignore
  { name: 'Half', stops: 3, kind: 'graduated-nd' },
  { name: 'ND8/PL', stops: 3.2, kind: 'nd-polarizer' },
  { name: 'Label only', stops: 5, u95: null },
]);
const RIG: PickRig = {
  name: 'Flying camera',
  clips: planRigOf({ ...NEW_RIG, baseIso: 200, highestIso: 400 }, NEW_RIG.lenses[0], 'clips'),
  stills: planRigOf(NEW_RIG, NEW_RIG.lenses[0], 'stills'),
  narrowest: 8,
  frameRates: [25],
};

let put: unknown[][] = [];
let putAnswer: unknown;
jest.mock('@/server/reportActions', () => ({
  reportsAction: () => Promise.resolve([{ id: 'r1', title: 'Spring kit' }]),
  addCarryAction: (...words: unknown[]) => {
    put.push(words);
    return Promise.resolve(putAnswer);
  },
}));

beforeEach(() => {
  localStorage.clear();
  put = [];
  putAnswer = { ok: true, id: 'made', revision: 1 };
});

test('the smallest kit, a work more, a limit, and all of it again on coming back', async () => {
  const { user, unmount } = show(<Carry kits={[STEPS, MIXED]} rigs={[RIG]} />);
  const title = () => screen.getByRole('heading', { level: 1 }).textContent;
  const rows = () => screen.getAllByRole('row').map((row) => row.textContent);
  // One that turns does what several would.
  expect(rows()[1]).toMatch(/^No filter/);
  expect(rows()[2]).toContain('TurningMixed');
  expect(title()).toMatch(/^(One|Two) filters? covers? (\d+ % of the hours|every hour)$/);
  await choose(user, 'Choose from', 'Steps');
  await waitFor(() => expect(rows().join()).not.toContain('Turning'));
  const whole = rows().length;
  expect(whole).toBeGreaterThan(3);
  await choose(user, 'Filters to add', '1 at most');
  await waitFor(() => expect(rows()).toHaveLength(3));
  const list = screen.getByRole('list', { name: 'Where it falls short' });
  expect(list.textContent).toMatch(/a further filter would do \(\d/);
  // Another work, of its own name; the one before lends its settings.
  await user.click(screen.getByRole('button', { name: /Another kind of work/ }));
  const second = screen.getByRole('group', { name: 'Work: Work 2' });
  await user.click(within(second).getByRole('radio', { name: 'long exposure' }));
  await waitFor(() => expect(screen.getByRole('figure', { name: 'Work 2: hours of the year' })).toBeTruthy());
  await user.click(within(second).getByRole('button', { name: 'Remove Work 2' }));
  expect(screen.queryByRole('group', { name: 'Work: Work 2' })).toBeNull();
  const before = title();
  unmount();
  show(<Carry kits={[STEPS, MIXED]} rigs={[RIG]} />);
  await waitFor(() => expect(title()).toBe(before));
  expect(screen.getByRole('combobox', { name: 'Filters to add' }).textContent).toBe('1 at most');
});

test('a rig, a place and what one has; what can’t be read is said beside it', async () => {
  const { user } = show(<Carry kits={[STEPS]} rigs={[RIG]} lookedAt={200} />);
  await choose(user, 'Rig', 'Flying camera');
  expect((screen.getByLabelText('ISO from') as HTMLInputElement).value).toBe('200');
  await choose(user, 'A place of the list', 'Equator, here');
  expect((screen.getByLabelText('° north') as HTMLInputElement).value).toBe('0');
  await choose(user, 'You have', 'Steps');
  await waitFor(() => expect(screen.getByRole('heading', { level: 1 }).textContent).toMatch(/^What you have covers /));
  expect(screen.getAllByText(/, you have it/)).toHaveLength(4);
  await user.clear(screen.getByLabelText('Frames a second'));
  expect(screen.getByRole('alert').textContent).toBe('Every setting is a number above 0.');
  await waitFor(() =>
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('There is no light to work in'),
  );
  expect(screen.getByText(/Only the newest 200/)).toBeTruthy();
});

test('without a measured filter it says where to get one', () => {
  show(<Carry kits={[kit('labels', 'Labels', [{ name: 'ND8', stops: 3, u95: null }], 0)]} rigs={[]} />);
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Nothing to choose from yet');
  expect(screen.getByRole('link', { name: 'start a session' })).toBeTruthy();
});

test('half a picture darkened, and labels alone, are no answer; a range and a polarizer are kept', () => {
  const offers = offersOf([MIXED]);
  expect(offers.map(({ name, from, to, polarizes }) => [name, from, to, polarizes])).toEqual([
    ['Turning', 2, 6.5, false],
    ['ND8/PL', 3.2, 3.2, true],
  ]);
  expect(strengthOf(offers[0])).toBe('2.00 to 6.50 ±0.02');
});

test('what a browser kept is used as far as it can be read', () => {
  expect(lastAsked()).toEqual({});
  keepAsked({ ...FIRST, works: [{ ...FIRST_WORK, frameRate: NaN }] });
  expect(lastAsked().works![0].frameRate).toBeNaN();
  localStorage.setItem('glade.carry', '{"works":[]}');
  expect(lastAsked()).toEqual({});
  localStorage.setItem('glade.carry', '{');
  expect(lastAsked()).toEqual({});
  expect(ofRig(RIG, 'clips')).toMatchObject({ baseIso: 200, highestIso: 400 });
  expect(workOf({ ...FIRST_WORK, target: 'hyperlapse' }).target).toEqual({ kind: 'hyperlapse', intervalSeconds: 2, angle: 180 }); // prettier-ignore
});

test('what is asked goes into a report, or a new one of the kits that are carried', async () => {
  const { user } = show(<Carry kits={[STEPS, MIXED]} rigs={[RIG]} />);
  await choose(user, 'Choose from', 'Steps');
  await waitFor(() => expect(screen.queryByText('Turning')).toBeNull());
  const open = () => user.click(screen.getByRole('button', { name: 'Put into a report' }));
  await open();
  await waitFor(() => expect(screen.getByRole('combobox', { name: 'Report that it goes into' }).textContent).toBe('Spring kit')); // prettier-ignore
  await user.click(screen.getByRole('button', { name: 'Put into the report' }));
  await open();
  await choose(user, 'Report that it goes into', 'A new report of these kits');
  putAnswer = { ok: false, error: 'A report answers 6 times what to carry; take one out first.' };
  await user.click(screen.getByRole('button', { name: 'Put into the report' }));
  expect(put).toEqual([
    ['r1', { ...FIRST, from: 'steps' }],
    [{ kits: ['steps'] }, { ...FIRST, from: 'steps' }],
  ]);
  expect(await screen.findByText(/answers 6 times/)).toBeTruthy();
});

test('a work in words; what was left empty is a dash', () => {
  expect(workInWords(FIRST_WORK)).toBe(
    'Filming: 25 frames a second at 180°, within 0.33 stop, ISO 100 to 400, f/2.8; 51.2° N, 2.5° W, all year, 7 to 19 h, sun and overcast',
  );
  const falls = { ...FIRST_WORK, name: 'Falls', target: 'long exposure', seconds: NaN, latitude: -3, longitude: 4 } as const; // prettier-ignore
  expect(workInWords({ ...falls, months: ['12', '1'], skies: ['shade'], polarizer: true })).toBe(
    'Falls: – s, within 0.33 stop, ISO 100 to 400, f/2.8, polarizing; 3° S, 4° E, Dec–Jan, 7 to 19 h, shade',
  );
});

test('words: the year goes round, a share is a whole only when it is one', () => {
  expect(monthsInWords([1, 2, 11, 12])).toBe('Nov–Feb');
  expect(monthsInWords([6])).toBe('Jun');
  expect(monthsInWords([3, 4, 9])).toBe('Mar–Apr, Sep');
  expect(monthsInWords([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12])).toBe('all year');
  expect(shareInWords(999, 1000)).toBe('99 %');
  expect(shareInWords(1000, 1000)).toBe('100 %');
  expect(shareInWords(0, 0)).toBe('–');
  expect(shortNames(['ND16', 'ND128'])).toBe('ND16·128');
  expect(shortNames(['ND16', 'CPL'])).toBe('ND16·CPL');
  expect(shortNames([])).toBe('');
  const lack = { work: 0, sky: 'clear', lack: 'stronger', hours: 119.6, months: [6, 7], fromHour: 11, toHour: 14, least: 7.04, most: 8.5 } as const; // prettier-ignore
  expect(shortfallInWords({ ...lack, months: [6, 7] }, [{ name: 'A' }])).toBe(
    'sun: 120 h a year, Jun–Jul, between 11 and 15 h: no measured filter is strong enough (7.0 to 8.5 stops would do).',
  );
  expect(shortfallInWords({ ...lack, months: [6] }, [{ name: 'A' }, { name: 'B' }])).toMatch(/^A, sun/);
  const answer = { hours: 10, bare: 10, steps: [], covered: 10, isExact: true, shortfalls: [], grid: [] };
  expect(titleOf(answer)).toBe('No filter is needed');
  expect(titleOf({ ...answer, bare: 4, covered: 4 })).toBe('No measured filter helps: bare covers 40 % of the hours');
});
