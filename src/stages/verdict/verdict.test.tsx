/** @jest-environment jsdom */
/** The verdict's table, its bounds, and what is said around them. */
import { screen, waitFor, within } from '@testing-library/react';
import { boundsOf, DEFAULT_BANDS } from '@/core/judging/rating/bands';
import { show } from '@/ui/testing/render';
import { plainReadings, readingsOf, smallSession, viewOf } from '@/ui/testing/sessions';
import { Bands } from './Bands';
import { RestsOn } from './RestsOn';
import { NextPicture } from './NextPicture';
import { Verdict } from './Verdict';
import { VerdictTable } from './VerdictTable';

let kept: unknown[];
let answer: () => Promise<unknown>;
jest.mock('@/server/judgeActions', () => ({
  keepBoundsAction: (bounds: unknown) => (kept.push(bounds), answer()),
}));
jest.mock('@/server/takeActions', () => ({ noteRingAction: jest.fn() }));
// Charts draw on a canvas that jsdom has not; what they draw is tested with their options.
jest.mock('./FilterSheet', () => ({
  FilterSheet: ({ name }: { name: string }) => <aside aria-label="Sheet">{name}</aside>,
}));
jest.mock('./UpClose', () => ({ UpClose: () => null }));

beforeEach(() => {
  kept = [];
  answer = () => Promise.resolve({ ok: true });
  window.history.replaceState(null, '', '/');
});
const NAMES: Record<string, string> = { nd4: 'ND4', nd8: 'ND8', vnd: 'VND' };
const table = () => screen.getByRole('table', { name: 'Verdicts' });
const names = () =>
  within(table())
    .getAllByRole('rowheader')
    .map((one) => one.textContent);

describe('the table', () => {
  const readings = readingsOf([
    plainReadings('nd8', 3.3, { verdict: { label: 'close', sentence: '' } as never }),
    plainReadings('nd4', 2.004, {}),
    plainReadings('vnd', 0, {
      density: undefined,
      cast: undefined,
      nominalStops: null,
      variable: {
        lightest: { value: 1.8, u95: 0.01 },
        darkest: { value: 5.2, u95: 0.01 },
        errors: { low: { value: -0.2, u95: 0.01 }, high: { value: 0.2, u95: 0.01 } },
      } as never,
      verdict: { label: 'withheld', sentence: '' } as never,
    }),
  ]);
  const draw = (onSelect = jest.fn()) =>
    ({ ...show(<VerdictTable readings={readings} nameOf={(id) => NAMES[id]} selected="nd4" onSelect={onSelect} />), onSelect }); // prettier-ignore

  test('figures with as many decimals as the least ± deserves, spans, and dashes for what is withheld', () => {
    draw();
    const cells = (name: string) =>
      within(within(table()).getByRole('row', { name: new RegExp(`^${name}`) })).getAllByRole('cell').map((one) => one.textContent); // prettier-ignore
    expect(cells('ND8').slice(0, 5)).toEqual(['3.00', '3.30 ±0.01', '+0.30', 'close', 'ND8']);
    expect(cells('ND4').slice(0, 4)).toEqual(['2.00', '2.00 ±0.01', '0.00', 'true']);
    expect(cells('VND').slice(0, 5)).toEqual(['2 to 5', '1.80 to 5.20', '−0.20, +0.20', 'withheld', '–']);
  });

  test('sorts by any head, what is missing last both ways', async () => {
    const { user } = draw();
    expect(names()).toEqual(['ND8', 'ND4', 'VND']);
    const found = screen.getByRole('button', { name: /^Found/ });
    await user.click(found);
    expect(names().at(-1)).toBe('VND');
    const first = names();
    await user.click(found);
    expect(names()).toEqual([first[1], first[0], 'VND']);
    expect(screen.getByRole('columnheader', { name: /^Found/ }).getAttribute('aria-sort')).toMatch(
      /ascending|descending/,
    );
    await user.click(screen.getByRole('button', { name: 'Filter' }));
    expect(names()).toEqual(['ND4', 'ND8', 'VND']);
  });

  test('a row is chosen by its name or anywhere on it', async () => {
    const { user, onSelect } = draw();
    await user.click(screen.getByRole('button', { name: 'ND8' }));
    expect(onSelect).toHaveBeenCalledWith('nd8');
    expect(screen.getByRole('button', { name: 'ND4' }).getAttribute('aria-pressed')).toBe('true');
  });

  test('columns that no filter has are left out', () => {
    draw();
    expect(screen.queryByRole('columnheader', { name: /Sharpness/ })).toBeNull();
    expect(screen.queryByRole('columnheader', { name: /corner/ })).toBeNull();
  });
});

describe('the page', () => {
  test('before anything is measured it leads to Measure', () => {
    show(<Verdict view={viewOf()} response={null} whole={null} />);
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Not measured yet');
    expect(screen.getByRole('link', { name: 'Go to Measure' }).getAttribute('href')).toBe(
      '/sessions/session-1/measure',
    );
  });

  test('the finding, the sheet of the filter farthest off, and one note a fault', async () => {
    const fault = { code: 'clipped', severity: 'error', takes: ['nd8'], message: 'Clipped.' } as never;
    const readings = readingsOf([
      plainReadings('nd4', 2, { faults: [fault] }),
      plainReadings('nd8', 3.4, { faults: [fault] }),
    ]);
    const { user } = show(
      <Verdict view={viewOf(smallSession(), { readings })} response={<p>sRGB</p>} whole={<p>the kit</p>} />,
    );
    expect(screen.getByRole('complementary', { name: 'Sheet' }).textContent).toBe('ND8');
    expect(within(screen.getByRole('list', { name: 'Notes' })).getAllByRole('listitem')).toHaveLength(1);
    for (const text of ['sRGB', 'the kit']) expect(screen.getByText(text)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'ND4' }));
    expect(window.location.search).toBe('?filter=nd4');
  });

  test.each([
    ['changed', /from before a change/],
    ['older version', /by an older version/],
  ] as const)('stale figures are told: %s', (stale, words) => {
    const readings = readingsOf([plainReadings('nd4', 2)]);
    show(<Verdict view={viewOf(smallSession(), { readings, stale })} response={null} whole={null} />);
    expect(screen.getByText(words)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Measure again' })).toBeTruthy();
  });

  test('everything can be taken away', async () => {
    const readings = readingsOf([plainReadings('nd4', 2)]);
    const { user } = show(<Verdict view={viewOf(smallSession(), { readings })} response={null} whole={null} />);
    screen.getByRole('button', { name: 'Download' }).focus();
    await user.keyboard('{Enter}');
    const items = await screen.findAllByRole('menuitem');
    expect(items.map((one) => one.getAttribute('href'))).toEqual(
      ['readings.json', 'readings.csv', 'exports', 'bundle'].map((one) => `/api/sessions/session-1/${one}`),
    );
  });
});

test('what a figure rests on: its takes, the bare ones, and their pictures', async () => {
  const readings = readingsOf([plainReadings('nd4', 2)]);
  const view = viewOf(smallSession(), { readings });
  const { user } = show(<RestsOn view={view} filter="nd4" name="ND4" />);
  await user.click(screen.getByRole('button', { name: 'What ND4’s figures rest on' }));
  const pictures = screen.getAllByRole('link', { name: /^picture/ });
  expect(pictures.map((one) => one.getAttribute('title'))).toEqual(['nd4.png', 'bare-1.png', 'bare-2.png']);
  expect(pictures[0].getAttribute('href')).toContain(view.files['nd4.png']);
});

describe('bounds', () => {
  const usual = boundsOf(DEFAULT_BANDS);

  test('are kept when they were changed, and told', async () => {
    const { user } = show(<Bands inForce={usual} />);
    const keep = screen.getByRole('button', { name: 'Keep these bounds' });
    expect(keep).toHaveProperty('disabled', true);
    const field = screen.getByRole('spinbutton', { name: 'Strength: true up to' });
    await user.clear(field);
    await user.type(field, '0.25');
    await user.click(keep);
    expect(kept).toEqual([{ ...usual, strength: [0.25, ...usual.strength.slice(1)] }]);
    await waitFor(() => expect(screen.getByText(/Every verdict follows/)).toBeTruthy());
    expect(keep).toHaveProperty('disabled', true);
  });

  test('back to the usual ones is no bounds at all', async () => {
    const { user } = show(<Bands inForce={{ ...usual, mergedBelow: 0.4 }} />);
    await user.click(screen.getByRole('button', { name: 'Back to the usual ones' }));
    expect(kept).toEqual([null]);
  });

  test('a refusal is told, and the fields stay', async () => {
    answer = () => Promise.resolve({ ok: false, error: 'This can’t be read: strength: above the one before.' });
    const { user } = show(<Bands inForce={usual} />);
    const field = screen.getByRole('spinbutton', { name: 'Strength: true up to' });
    await user.clear(field);
    await user.type(field, '9');
    await user.click(screen.getByRole('button', { name: 'Keep these bounds' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('above the one before'));
    expect((field as HTMLInputElement).value).toBe('9');
  });
});

describe('the next picture', () => {
  const nameOf = (id: string) => NAMES[id];
  const said = () => screen.getByTestId('next-picture').textContent;

  test('says what to shoot, whose ± it narrows, and to what', () => {
    const how = 'Two bare pictures, darker';
    show(<NextPicture next={{ kind: 'narrow', filter: 'nd8', figure: 'strength', u95: 0.12, what: 'the curve', share: 0.91, without: 0.036, how }} nameOf={nameOf} />); // prettier-ignore
    expect(said()).toBe(
      'Next picture: Two bare pictures, darker. The widest ± for its rating is that of ND8’s strength, ±0.12 stop: 91 % of it (in variance) is the curve. Without that it would be ±0.04 stop.',
    );
  });

  test('or what would give figures that are withheld', () => {
    show(
      <NextPicture
        next={{ kind: 'withheld', filters: ['nd4', 'nd8'], remedy: 'Shoot a bare take.' }}
        nameOf={nameOf}
      />,
    );
    expect(said()).toContain('Shoot a bare take. That would give ND4 and ND8 figures');
  });
});
