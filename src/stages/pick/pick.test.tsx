/** @jest-environment jsdom */
/** Pick in the field: what is asked, answered and remembered. */
import { screen, waitFor, within } from '@testing-library/react';
import { NEW_RIG, planRigOf } from '@/core/sitting/kits/keptRig';
import type { PickKit, PickRig } from '@/server/pickList';
import { choose, show } from '@/ui/testing/render';
import { answerOf, FIRST, keepAsked, lastAsked } from './asked';
import { Pick } from './Pick';

const filter = (id: string, stops: number, u95: number | null = 0.01) => ({ id, name: id.toUpperCase(), stops, u95 });
const kit = (id: string, name: string, measured: number, filters: unknown[]): PickKit =>
  ({ id, name, measured, filters, stale: false }) as PickKit;
const FOUNDRY = kit('foundry', 'Foundry Set', 3, [filter('nd8', 3.1), filter('nd16', 4), filter('nd32', 5.02)]);
const LABELS = kit('labels', 'Labels alone', 0, [filter('nd8', 3, null), filter('nd64', 6, null)]);
const RIG: PickRig = {
  name: 'Flying camera',
  clips: planRigOf(NEW_RIG, NEW_RIG.lenses[0], 'clips'),
  stills: planRigOf(NEW_RIG, NEW_RIG.lenses[0], 'stills'),
  narrowest: 11,
  frameRates: [25],
};

beforeEach(() => localStorage.clear());

describe('the answer', () => {
  test('the filter that brings the meter’s shutter to half a frame', () => {
    // 1/1600 s bare, 1/50 s wanted: five stops.
    const { picked, wanted, problem } = answerOf(FIRST, FOUNDRY, undefined);
    expect(problem).toBeNull();
    expect(wanted).toBeCloseTo(1 / 50, 9);
    expect(picked[0].name).toBe('ND32');
    expect(picked[0].rightSeconds).toBeCloseTo(2 ** 5.02 / 1600, 6);
    expect(picked.map((one) => one.name).sort()).toEqual(['ND16', 'ND32', 'ND8', 'no filter']);
  });

  test.each([
    [{ light: 'sunny' }, /Write the light/],
    [{ iso: NaN }, /above 0/],
    [{ frameRate: 0 }, /above 0/],
    [{ fNumber: -1 }, /above 0/],
  ])('what can’t be read is asked: %j', (part, words) => {
    const { picked, problem } = answerOf({ ...FIRST, ...part }, FOUNDRY, undefined);
    expect(problem).toMatch(words);
    expect(picked).toEqual([]);
  });

  test('targets: half a frame, a share of an interval, seconds open', () => {
    expect(answerOf({ ...FIRST, target: 'hyperlapse' }, FOUNDRY, undefined).wanted).toBeCloseTo(1, 9);
    expect(answerOf({ ...FIRST, target: 'long exposure', seconds: 20 }, FOUNDRY, undefined).wanted).toBe(20);
    expect(answerOf({ ...FIRST, frameRate: 50, angle: 90 }, FOUNDRY, undefined).wanted).toBeCloseTo(1 / 200, 9);
  });

  test('without a kit nothing is picked', () => {
    expect(answerOf(FIRST, undefined, RIG).picked).toEqual([]);
  });
});

describe('what was asked last', () => {
  test('is remembered, with fields that were empty', () => {
    keepAsked({ ...FIRST, iso: 400, seconds: NaN });
    expect(lastAsked()).toMatchObject({ iso: 400, light: FIRST.light });
  });

  test.each(['no JSON {', '{"iso":"many"}', '[]', 'null'])(
    'what can’t be read is as if nothing was kept: %s',
    (text) => {
      localStorage.setItem('glade.pick', text);
      expect(lastAsked().iso).toBeUndefined();
    },
  );
});

describe('the page', () => {
  const draw = (kits = [FOUNDRY, LABELS], rigs = [RIG]) =>
    show(<Pick kits={kits} rigs={rigs} home={null} first={null} />);

  test('the meter’s words lead to a filter; others come to mind below', async () => {
    const { user } = draw();
    const pick = screen.getByTestId('pick');
    expect(pick.textContent).toContain('ND32');
    const light = screen.getByLabelText('The bare meter says');
    await user.clear(light);
    await user.type(light, '1/800 f/2.8 ISO 100');
    await waitFor(() => expect(screen.getByTestId('pick').textContent).toContain('ND16'));
    expect(within(screen.getByTestId('others')).getAllByRole('listitem')).toHaveLength(3);
    expect(lastAsked().light).toBe('1/800 f/2.8 ISO 100');
  });

  test('words that are no light are asked about', async () => {
    const { user } = draw();
    await user.clear(screen.getByLabelText('The bare meter says'));
    expect(screen.getByRole('alert').textContent).toContain('Write the light');
    expect(screen.queryByTestId('pick')).toBeNull();
  });

  test('a kit by its labels alone says so', async () => {
    const { user } = draw();
    await choose(user, /Kit in hand/, 'Labels alone (by its labels)');
    expect(screen.getByTestId('pick').textContent).toContain('by its label; it wasn’t measured');
  });

  test('a rough light stands for the meter', async () => {
    const { user } = draw();
    const list = screen.getByRole('combobox', { name: /roughly/ });
    list.focus();
    await user.keyboard('{Enter}');
    const [, sunny] = await screen.findAllByRole('option');
    await user.click(sunny);
    expect(screen.getByText(/a rough start: good to a stop or so/)).toBeTruthy();
    expect(screen.getByLabelText('The bare meter says')).toHaveProperty('disabled', true);
  });

  test('what for: other fields are asked', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('radio', { name: 'long exposure' }));
    expect(screen.getByLabelText('Seconds open')).toBeTruthy();
    expect(screen.queryByLabelText('Frames a second')).toBeNull();
    await user.click(screen.getByRole('radio', { name: 'hyperlapse' }));
    expect(screen.getByLabelText('Seconds between')).toBeTruthy();
  });

  test('comes up with what was asked last', async () => {
    keepAsked({ ...FIRST, light: '1/400 f/2.8 ISO 100' });
    draw();
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('The bare meter says').value).toBe('1/400 f/2.8 ISO 100')); // prettier-ignore
    expect(screen.getByTestId('pick').textContent).toContain('ND8');
  });

  test('without a kit it says where one comes from', () => {
    draw([]);
    expect(screen.getByRole('link', { name: 'Put one on the shelf' })).toBeTruthy();
  });
});
