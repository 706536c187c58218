/** @jest-environment jsdom */
/** Kits and rigs as they are typed: what is sent to the shelf, and what is said meanwhile. */
import { act, screen, waitFor, within } from '@testing-library/react';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { forgetWays, went } from '@/ui/testing/navigation';
import { choose, show } from '@/ui/testing/render';
import { KitEditor } from './KitEditor';
import { moved, rowOf } from './rows';
import { firstMessage, RigEditor } from './RigEditor';
import { Shelf } from './Shelf';

const kept: { kit: unknown[]; rig: unknown[]; away: unknown[] } = { kit: [], rig: [], away: [] };
let answer: () => Promise<unknown>;
let imported: { kits: number; filters: number; problems: string[] };
jest.mock('@/server/shelfActions', () => ({
  keepKitAction: (kit: unknown, place: unknown) => (kept.kit.push({ kit, place }), answer()),
  keepRigAction: (rig: unknown, place: unknown) => (kept.rig.push({ rig, place }), answer()),
  putAwayFromShelfAction: (...words: unknown[]) => (kept.away.push(words), Promise.resolve({ ok: true })),
  importKitsAction: () => Promise.resolve(imported),
}));

const FOUNDRY: KeptKit = {
  id: 'foundry',
  name: 'Foundry Set',
  maker: 'Palewright',
  filters: [
    { id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 }, massGrams: 2.1 },
    { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, massGrams: 2.4, price: 20 },
  ],
};
const lastKit = () => (kept.kit.at(-1) as { kit: KeptKit }).kit;
const settle = () => act(() => new Promise((done) => setTimeout(done, 650)));

beforeEach(() => {
  kept.kit = [];
  kept.rig = [];
  kept.away = [];
  answer = () => Promise.resolve({ ok: true, id: 'x', revision: 2 });
  imported = { kits: 1, filters: 3, problems: ['Row 2: “nothing” isn’t a strength I know.'] };
  forgetWays();
});

describe('a kit', () => {
  const rows = () => within(screen.getByRole('table', { name: 'Filters of the kit' })).getAllByRole('row');
  const draw = () => show(<KitEditor id="foundry" revision={1} kit={FOUNDRY} aircraft={[]} />);

  test('what is typed is kept a moment later, on the revision that was read', async () => {
    const { user } = draw();
    await user.type(screen.getByLabelText('Maker'), ' & Sons');
    expect(screen.getByText('Not saved yet')).toBeTruthy();
    await settle();
    expect(kept.kit).toHaveLength(1);
    expect(kept.kit[0]).toMatchObject({ kit: { maker: 'Palewright & Sons' }, place: { id: 'foundry', revision: 1 } });
    expect(screen.getByText('Saved')).toBeTruthy();
    await user.type(screen.getByLabelText('Maker'), '!');
    await settle();
    expect(kept.kit[1]).toMatchObject({ place: { revision: 2 } });
  });

  test('a refused change is told and stays in the field', async () => {
    answer = () => Promise.resolve({ ok: false, error: 'It was changed in another window.' });
    const { user } = draw();
    await user.type(screen.getByLabelText('Maker'), ' Ltd');
    await settle();
    expect(screen.getByRole('alert').textContent).toBe('It was changed in another window.');
    expect(screen.getByLabelText<HTMLInputElement>('Maker').value).toBe('Palewright Ltd');
  });

  test('a label in any notation, shown in all; one that can’t be read is told and not sent', async () => {
    const { user } = draw();
    const label = screen.getByLabelText('Label, row 1');
    await user.clear(label);
    await user.type(label, '0.9');
    expect(screen.getAllByRole('row')[1].textContent).toContain('2.99 stops');
    await user.type(label, ' and a bit');
    expect(screen.getByText(/^Row 1: “(and|a|bit)/)).toBeTruthy();
    await settle();
    expect(lastKit().filters[0].nominal).toEqual({ opticalDensity: 0.9 });
  });

  test('arrows and Enter move between rows; Enter on the last adds one; Alt moves the row itself', async () => {
    const { user } = draw();
    screen.getByLabelText('Filter, row 1').focus();
    await user.keyboard('{ArrowDown}');
    expect(document.activeElement).toBe(screen.getByLabelText('Filter, row 2'));
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(screen.getByLabelText<HTMLInputElement>('Filter, row 1').value).toBe('ND8');
    expect(document.activeElement).toBe(screen.getByLabelText('Filter, row 1'));
    await user.keyboard('{ArrowDown}{Enter}');
    expect(rows()).toHaveLength(4);
    expect(document.activeElement).toBe(screen.getByLabelText('Filter, row 3'));
    await settle();
    expect(lastKit().filters.map((one) => one.name)).toEqual(['ND8', 'ND4', 'unmarked']);
  });

  test('kind and handling, and what the row says of them', async () => {
    const { user } = draw();
    await choose(user, 'Kind, row 2', 'ND with polarizer');
    const card = screen.getByRole('region', { name: /^Handling of/ });
    await user.click(within(card).getByRole('button', { name: 'Falls off when shaken: yes' }));
    expect(screen.getByText('1 flaw')).toBeTruthy();
    await user.click(within(card).getByRole('button', { name: 'Falls off when shaken: yes' }));
    expect(screen.queryByText('1 flaw')).toBeNull();
    await user.type(within(card).getByLabelText('Notes on handling'), 'stiff');
    await settle();
    expect(lastKit().filters[1].kind).toBe('nd-polarizer');
    expect(lastKit().filters.some((one) => one.notes === 'stiff')).toBe(true);
  });

  test('a price that is none is told; one by one dearer than the kit is said', async () => {
    const { user } = draw();
    const price = screen.getByLabelText('Price of the kit');
    await user.type(price, 'much');
    expect(screen.getByText(/kit’s price is a number/)).toBeTruthy();
    await user.clear(price);
    await user.type(price, '12,5');
    expect(screen.getByText(/come to 20.00 EUR, the kit to 12.50/)).toBeTruthy();
    await choose(user, /How obtained/, 'lent');
    await settle();
    expect(lastKit()).toMatchObject({ price: { amount: 12.5, currency: 'EUR' }, obtained: 'lent' });
  });

  test('more filters in shorthand; what can’t be read stays in the field', async () => {
    const { user } = draw();
    const field = screen.getByLabelText<HTMLInputElement>('More filters in shorthand');
    await user.type(field, 'ND16 twelve');
    await user.click(screen.getByRole('button', { name: 'Add them' }));
    expect(screen.getByRole('alert').textContent).toContain('twelve');
    await user.clear(field);
    await user.type(field, 'ND32{Enter}');
    await waitFor(() => expect(field.value).toBe(''));
    await settle();
    expect(lastKit().filters.map((one) => one.name)).toContain('ND32');
  });

  test('a row is removed', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Remove ND4, row 1' }));
    expect(rows()).toHaveLength(2);
    await settle();
    expect(lastKit().filters.map((one) => one.id)).toEqual(['nd8']);
  });
});

describe('mass on an aircraft', () => {
  const flying = [
    { rig: 'Flying camera', massGrams: 246.8, limitGrams: 249 },
    { rig: 'Heavy one', massGrams: 900, limitGrams: 4000 },
  ];

  test('who lifts it over its limit is named; another rig, other limits', async () => {
    const { user } = show(<KitEditor id="foundry" revision={1} kit={FOUNDRY} aircraft={flying} />);
    const mass = within(screen.getByRole('region', { name: 'Mass on an aircraft' }));
    expect(mass.getByRole('status').textContent).toContain('Over the limit: ND8 by 0.2 g.');
    await choose(user, /Rig/, 'Heavy one');
    expect(mass.getByRole('status').textContent).toContain('leaves 3097.6 g under the limit');
    await user.clear(mass.getByLabelText('Limit of its class, g'));
    expect(mass.getByRole('status').textContent).toBe('Type both to check.');
  });
});

describe('a rig', () => {
  const draw = () => show(<RigEditor id="rig" revision={3} rig={{ ...NEW_RIG, camera: 'Bench camera' }} />);
  const lastRig = () => (kept.rig.at(-1) as { rig: typeof NEW_RIG }).rig;

  test('what is typed is kept, and what is wrong with it is said', async () => {
    const { user } = draw();
    const highest = screen.getByLabelText('Highest ISO');
    await user.clear(highest);
    await user.type(highest, '50');
    await waitFor(() => expect(screen.getByText('The highest ISO lies below the base ISO.')).toBeTruthy());
    await user.clear(highest);
    await user.type(highest, '800');
    await waitFor(() => expect(screen.queryByText(/lies below/)).toBeNull());
    await settle();
    expect(lastRig().highestIso).toBe(800);
    expect(kept.rig.at(-1)).toMatchObject({ place: { id: 'rig' } });
  });

  test('lenses come and go, one stays; a fixed one has no narrowest', async () => {
    const { user } = draw();
    expect(screen.queryByRole('button', { name: /^Remove Lens|^Remove lens/ })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Add a lens' }));
    const second = within(screen.getByRole('group', { name: 'Lens 2' }));
    await user.clear(second.getByLabelText('Lens'));
    await user.type(second.getByLabelText('Lens'), 'Fixed eight');
    second.getByRole('combobox', { name: /Aperture/ }).focus();
    await user.keyboard('{Enter}');
    await user.click(await screen.findByRole('option', { name: 'fixed' }));
    expect(second.queryByLabelText('Narrowest')).toBeNull();
    await settle();
    expect(lastRig().lenses[1]).toMatchObject({ name: 'Fixed eight', aperture: 'fixed', widest: 2.8 });
    await user.click(second.getByRole('button', { name: 'Remove Fixed eight' }));
    await settle();
    expect(lastRig().lenses).toHaveLength(1);
  });

  test('profiles, and an aircraft that can be taken off again', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Add a profile' }));
    await user.click(screen.getByRole('checkbox', { name: 'The camera flies' }));
    expect(screen.getByLabelText<HTMLInputElement>('Limit of its class, g').value).toBe('250');
    await settle();
    expect(lastRig()).toMatchObject({ aircraft: { massGrams: 249, limitGrams: 250 } });
    expect(lastRig().profiles.at(-1)).toMatchObject({ response: { kind: 'file' }, bitDepth: 10 });
    await user.click(screen.getByRole('checkbox', { name: 'The camera flies' }));
    await settle();
    expect(lastRig().aircraft).toBeUndefined();
  });
});

describe('the shelf', () => {
  const entry = (id: string, name: string) => ({ id, name, items: 2 });
  const draw = (kits = [entry('a', 'Foundry Set')], rigs = [entry('r', 'Bench camera')]) =>
    show(<Shelf kits={kits} rigs={rigs} />);

  test('a new kit is sent with its filters and opened', async () => {
    const { user } = draw();
    await user.type(screen.getByLabelText('Name'), 'Harbour Six');
    await user.type(screen.getByLabelText('Filters in shorthand'), 'ND4 0.9');
    expect(screen.getByRole('list', { name: 'The kit, in all notations' }).textContent).toContain('2.99 stops');
    await user.click(screen.getByRole('button', { name: 'New kit' }));
    await waitFor(() => expect(went.pushed).toEqual(['/kits/x']));
    expect(lastKit()).toMatchObject({ name: 'Harbour Six' });
    expect(lastKit().filters).toHaveLength(2);
  });

  test('what the server refuses is told, without a line too', async () => {
    answer = () => Promise.reject(new TypeError('Failed to fetch'));
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'New rig' }));
    await waitFor(() => expect(screen.getByText(/No connection to the server/)).toBeTruthy());
    expect(went.pushed).toEqual([]);
  });

  test('something put away comes back by the notice', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Put “Foundry Set” away' }));
    await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
    expect(kept.away).toEqual([
      ['kit', 'a', true],
      ['kit', 'a', false],
    ]);
    expect(went.refreshed).toBe(2);
  });

  test('files of kits: what was taken in, and each line that could not be read', async () => {
    const { user } = draw();
    await user.upload(screen.getByLabelText('Files of kits'), new File(['name;label'], 'kits.csv'));
    await waitFor(() => expect(screen.getByText('kits.csv: 1 kit with 3 filters taken in.')).toBeTruthy());
    expect(screen.getByText(/^Row 2: “nothing”/)).toBeTruthy();
  });

  test('a long shelf is searched', async () => {
    const { user } = draw(Array.from({ length: 14 }, (_, i) => entry(`k${i}`, `Kit ${i}`)));
    const kits = within(screen.getByRole('region', { name: 'Kits' }));
    await user.type(kits.getByLabelText('Find'), 'kit 13');
    expect(kits.getAllByRole('link', { name: /^Kit / })).toHaveLength(1);
    await user.type(kits.getByLabelText('Find'), 'x');
    expect(kits.getByText('No kit has “kit 13x” in its name.')).toBeTruthy();
  });

  test('an empty one says where kits come from', () => {
    draw([], []);
    expect(screen.getAllByText(/come with .\/glade demo/)).toHaveLength(2);
  });
});

test('a row goes where there is one', () => {
  const rows = FOUNDRY.filters.map(rowOf);
  expect(moved(rows, 0, 1).map((row) => row.filter.id)).toEqual(['nd8', 'nd4']);
  expect(moved(rows, 0, -1)).toBe(rows);
  expect(moved(rows, 1, 2)).toBe(rows);
  expect(moved(rows, 1, 1)).toBe(rows);
});

test('the first fault of a form, however deep', () => {
  expect(firstMessage({})).toBeNull();
  const deep = { lenses: [undefined, { name: { type: 'x', message: 'Give every lens a name.' } }] };
  expect(firstMessage(deep as never)).toBe('Give every lens a name.');
});
