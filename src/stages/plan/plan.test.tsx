/** @jest-environment jsdom */
/** The plan as it is typed: what follows from each word, what comes from the shelf, what is kept. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import { forgetWays, went } from '@/ui/testing/navigation';
import { choose, show } from '@/ui/testing/render';
import { OwnChecklist } from './OwnChecklist';
import { PlanStage } from './PlanStage';

let shelf: { kit: () => Promise<unknown>; rig: () => Promise<unknown> };
jest.mock('@/server/shelfActions', () => ({ kitAction: () => shelf.kit(), rigAction: () => shelf.rig() }));

let sent: { document: Record<string, never> } | null;
let answer: unknown;
beforeEach(() => {
  shelf = { kit: () => Promise.resolve(null), rig: () => Promise.resolve(null) };
  sent = null;
  answer = { id: 'made' };
  forgetWays();
  globalThis.fetch = jest.fn((_: string, asked: { body: string }) => {
    sent = JSON.parse(asked.body);
    return Promise.resolve({ json: () => Promise.resolve(answer) });
  }) as never;
});
const NONE = { kits: [], rigs: [] };
const SOME = { kits: [{ id: 'k', name: 'Foundry Set' }], rigs: [{ id: 'r', name: 'Two lenses' }] };
const title = () => screen.getByRole('heading', { level: 1 }).textContent;

test('opens as a plan that can be kept', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  expect(title()).toMatch(/^\d+ takes, about \d+ minutes$/);
  await user.type(screen.getByLabelText('Title'), 'First sitting');
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  await waitFor(() => expect(went.pushed).toEqual(['/sessions/made/plan']));
  expect(sent!.document).toMatchObject({ title: 'First sitting' });
});

test('what can’t be read is told, and the plan waits', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  await user.clear(screen.getByLabelText(/^Light at the chart/));
  await user.type(screen.getByLabelText(/^Light at the chart/), 'dark');
  expect(screen.getByRole('list', { name: 'What is missing' }).textContent).toContain('Write the light as');
  expect(screen.getByRole('button', { name: 'Keep the plan' })).toHaveProperty('disabled', true);
  expect(title()).toBe('The plan waits for a few words');
});

test('fewer scenes, fewer takes', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  const before = Number(/^\d+/.exec(title()!)![0]);
  await user.click(screen.getByRole('checkbox', { name: 'even wall' }));
  expect(Number(/^\d+/.exec(title()!)![0])).toBeLessThan(before);
  await user.click(screen.getByRole('checkbox', { name: 'chart' }));
  expect(screen.getByText('Choose at least one scene.')).toBeTruthy();
});

test('each school says what speaks for it', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  const matched = screen.getByText(/The shutter is walked until/);
  expect(matched).toBeTruthy();
  await choose(user, 'Exposure', 'locked');
  expect(screen.queryByText(/The shutter is walked until/)).toBeNull();
  await choose(user, 'Order', 'there and back');
  await choose(user, 'Exposed for', 'darker');
  expect(screen.getByRole('combobox', { name: 'Order' }).textContent).toBe('there and back');
});

test('targets ask for their own numbers', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  await choose(user, 'What is shot', 'clips');
  expect(screen.getByLabelText('Frames a second')).toBeTruthy();
  await choose(user, 'What is shot', 'a long exposure');
  expect(screen.getByLabelText('Open for, seconds')).toBeTruthy();
  expect(screen.queryByLabelText('Frames a second')).toBeNull();
});

describe('from the shelf', () => {
  test('a kit takes the shorthand’s place, and gives it back', async () => {
    shelf.kit = () =>
      Promise.resolve({ id: 'k', name: 'Foundry Set', filters: [{ id: 'a', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 } }] }); // prettier-ignore
    const { user } = show(<PlanStage shelf={SOME} />);
    await choose(user, 'Kit', 'Foundry Set');
    await waitFor(() => expect(screen.queryByLabelText('Kit in shorthand')).toBeNull());
    expect(screen.getByText('ND4', { selector: 'p' })).toBeTruthy();
    await choose(user, 'Kit', 'typed here');
    await waitFor(() => expect(screen.getByLabelText('Kit in shorthand')).toBeTruthy());
  });

  test('one that is gone is told, without a line too; what was typed stays', async () => {
    const { user } = show(<PlanStage shelf={SOME} />);
    await choose(user, 'Kit', 'Foundry Set');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('This kit is not on the shelf any more.'));
    shelf.rig = () => Promise.reject(new TypeError('Failed to fetch'));
    await choose(user, 'Rig', 'Two lenses');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No connection'));
    expect(screen.getByLabelText<HTMLInputElement>('Kit in shorthand').value).toContain('ND4');
  });

  test('a rig fills in its limits, and offers a lens a scene', async () => {
    const lens = NEW_RIG.lenses[0];
    shelf.rig = () =>
      Promise.resolve({
        ...NEW_RIG,
        camera: 'Two lenses',
        baseIso: 200,
        lenses: [lens, { ...lens, name: 'Fixed eight', aperture: 'fixed', widest: 8 }],
      });
    const { user } = show(<PlanStage shelf={SOME} />);
    await choose(user, 'Rig', 'Two lenses');
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('Base ISO').value).toBe('200'));
    await choose(user, 'Lens for the even wall', 'Fixed eight');
    expect(screen.getByRole('combobox', { name: 'Lens for the even wall' }).textContent).toBe('Fixed eight');
    // Clips have shutters of their own.
    const before = screen.getByLabelText<HTMLInputElement>('Slowest shutter').value;
    await choose(user, 'What is shot', 'clips');
    expect(screen.getByLabelText<HTMLInputElement>('Slowest shutter').value).not.toBe(before);
  });
});

test('a refusal of the server is told', async () => {
  answer = { error: 'title: expected a text.' };
  const { user } = show(<PlanStage shelf={NONE} />);
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('title: expected a text.'));
});

describe('a checklist of one’s own', () => {
  test('lines are added once, ticked and removed', async () => {
    const changed = jest.fn();
    const { user } = show(
      <ul>
        <OwnChecklist lines={['Spare card']} onChange={changed} />
      </ul>,
    );
    await user.type(screen.getByLabelText('A line of your own'), 'Gray card{Enter}');
    await waitFor(() => expect(changed).toHaveBeenCalledWith(['Spare card', 'Gray card']));
    await user.type(screen.getByLabelText('A line of your own'), ' Spare card {Enter}');
    await act(async () => undefined);
    expect(changed).toHaveBeenCalledTimes(1);
    const box = screen.getByRole('checkbox', { name: 'Spare card' });
    await user.click(box);
    expect(box.getAttribute('aria-checked')).toBe('true');
    await user.click(screen.getByRole('button', { name: 'Remove “Spare card”' }));
    expect(changed).toHaveBeenLastCalledWith([]);
  });

  test('each can be moved by a grip that says so', () => {
    show(
      <ul>
        <OwnChecklist lines={['one', 'two']} onChange={jest.fn()} />
      </ul>,
    );
    expect(screen.getByRole('button', { name: 'Move “two”' })).toBeTruthy();
  });
});

test('outdoors: the sun of the day, by place and hour', async () => {
  const { user } = show(<PlanStage shelf={NONE} />);
  const outdoors = within(screen.getByRole('region', { name: 'Outdoors' }));
  const set = async (label: string | RegExp, text: string) => {
    await user.clear(outdoors.getByLabelText(label));
    await user.type(outdoors.getByLabelText(label), text);
  };
  await set(/Latitude/, '0');
  await set(/Longitude/, '0');
  await set('Day', '2026-03-20');
  await set('Time, UTC', '12:00');
  expect(outdoors.getByText(/The sun stands at/).textContent).toMatch(/8\d° above the horizon|9\d° above/);
  await set('Time, UTC', '00:00');
  expect(outdoors.getByText(/The sun stands at/).textContent).toContain('below the horizon');
  expect(outdoors.getByText(/Golden hours/)).toBeTruthy();
});
