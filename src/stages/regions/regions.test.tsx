/** @jest-environment jsdom */
/** Patches on their way: none is lost, whatever another does meanwhile. */
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Rect } from '@/core/session/schema';
import { choose, show } from '@/ui/testing/render';
import { smallSession, viewOf } from '@/ui/testing/sessions';
import { Regions } from './Regions';
import { freeName } from './usePatches';
import { asPatches } from './useProposals';

type Placed = [session: string, scene: string, patch: string, to: { rect: Rect; role: string } | null, seen: unknown[]];
let placed: Placed[];
let several: unknown[];
let renamed: unknown[];
let optics: unknown[];
/** What each change of the light says was shown or sent before. */
let seen: unknown[];
let answers: (() => Promise<unknown>)[];
let revision = 1;
const answer = (id?: unknown) =>
  (answers.shift() ?? (() => Promise.resolve({ ok: true, revision: ++revision, refused: [], id, stands: null })))();
const undone: number[] = [];
jest.mock('@/server/editActions', () => ({
  undoAction: (_: string, number: number) => (
    undone.push(number),
    Promise.resolve({ ok: true, revision: ++revision, refused: [] })
  ),
}));
jest.mock('@/server/patchActions', () => ({
  placePatchAction: (...words: unknown[]) => (placed.push(words as Placed), answer(words[2])),
  placePatchesAction: (...words: unknown[]) => (several.push(words), answer()),
  renamePatchAction: (...words: unknown[]) => (renamed.push(words), answer()),
  editOpticsAction: (...words: unknown[]) => (optics.push(words.slice(0, 3)), seen.push(words[3]), answer()),
}));

const STATISTICS = { mean: [66.8, 66.8, 66.8], noise: [1, 1, 1], pixels: 100, clipped: 0, black: 0 };
let proposals: unknown;

beforeEach(() => {
  placed = [];
  several = [];
  renamed = [];
  optics = [];
  seen = [];
  answers = [];
  proposals = { patches: [], missing: [] };
  globalThis.fetch = jest.fn((address: string) =>
    Promise.resolve({
      ok: true,
      json: () => Promise.resolve(String(address).includes('/proposals') ? proposals : STATISTICS),
    }),
  ) as never;
  window.history.replaceState(null, '', '/');
});
const settle = () => act(() => new Promise((done) => setTimeout(done, 600)));
const panel = () => within(screen.getByRole('complementary', { name: 'Patches' }));

test('a patch is nudged by arrows and sent a moment later', async () => {
  const { user } = show(<Regions view={viewOf()} />);
  const patch = screen.getByRole('button', { name: /^Patch gray/ });
  patch.focus();
  await user.keyboard('{ArrowRight}{ArrowRight}');
  await settle();
  expect(placed).toHaveLength(1);
  const [session, scene, id, to] = placed[0];
  expect([session, scene, id, to!.role]).toEqual(['session-1', 'chart', 'gray', 'neutral']);
  // Two pixels of 1200.
  expect(to!.rect.x).toBeCloseTo(0.4 + 2 / 1200, 5);
  expect(panel().getByText('Saved')).toBeTruthy();
});

test('what was moved is taken back by Ctrl+Z when it is written, and done again', async () => {
  undone.length = 0;
  const { user } = show(<Regions view={viewOf()} />);
  const undo = panel().getByRole('button', { name: 'Undo' });
  expect(undo).toHaveProperty('disabled', true);
  screen.getByRole('button', { name: /^Patch gray/ }).focus();
  await user.keyboard('{ArrowRight}');
  // Still on its way: it is written first.
  await user.keyboard('{Control>}z{/Control}');
  await waitFor(() => expect(undone).toHaveLength(1));
  expect(placed).toHaveLength(1);
  await waitFor(() => expect(panel().getByRole('button', { name: 'Redo' })).toHaveProperty('disabled', false));
  await user.click(panel().getByRole('button', { name: 'Redo' }));
  await waitFor(() => expect(undone).toEqual([undone[0], undone[0] + 1]));
  expect(undo).toHaveProperty('disabled', false);
});

test('a place that another window came before is told, and each change goes with what was seen', async () => {
  const stands = { rect: { x: 0.7, y: 0.1, width: 0.2, height: 0.2 }, role: 'neutral' };
  answers = [() => Promise.resolve({ ok: true, revision: null, refused: ['The place of patch “gray” was changed elsewhere.'], id: 'gray', stands })]; // prettier-ignore
  const { user } = show(<Regions view={viewOf()} />);
  screen.getByRole('button', { name: /^Patch gray/ }).focus();
  await user.keyboard('{ArrowRight}');
  await settle();
  expect(panel().getByRole('alert').textContent).toContain('changed elsewhere');
  await user.keyboard('{ArrowRight}');
  await settle();
  expect(placed[1][4]).toEqual([placed[0][4][0], placed[0][3], stands]);
});

test('two patches moved soon after each other are both sent', async () => {
  const session = smallSession({
    patches: ['gray', 'other'].map((id, i) => ({
      id,
      scene: 'chart',
      role: 'neutral',
      rect: { x: 0.1 + 0.4 * i, y: 0.1, width: 0.2, height: 0.2 },
    })),
  });
  const { user } = show(<Regions view={viewOf(session)} />);
  screen.getByRole('button', { name: /^Patch gray/ }).focus();
  await user.keyboard('{ArrowDown}');
  screen.getByRole('button', { name: /^Patch other/ }).focus();
  await user.keyboard('{ArrowDown}');
  await settle();
  expect(placed.map(([, , id]) => id).sort()).toEqual(['gray', 'other']);
});

test('a refusal is told and the patch stays; the next change replaces it', async () => {
  answers = [() => Promise.resolve({ ok: false, error: 'This can’t be read.' })];
  const { user } = show(<Regions view={viewOf()} />);
  screen.getByRole('button', { name: /^Patch gray/ }).focus();
  await user.keyboard('{ArrowRight}');
  await settle();
  expect(panel().getByRole('alert').textContent).toBe('This can’t be read.');
  await user.keyboard('{ArrowRight}');
  await settle();
  expect(panel().queryByRole('alert')).toBeNull();
  expect(placed).toHaveLength(2);
});

test('added, given a role, removed', async () => {
  const { user } = show(<Regions view={viewOf()} />);
  await user.click(panel().getByRole('button', { name: 'Add a patch' }));
  await choose(user, 'What gray-2 measures', 'edge: sharpness');
  await settle();
  expect(placed.at(-1)!.slice(2, 4)).toEqual([
    'gray-2',
    { rect: { x: 0.42, y: 0.4, width: 0.16, height: 0.2 }, role: 'edge' },
  ]);
  await user.click(panel().getByRole('button', { name: 'Remove' }));
  await settle();
  expect(placed.at(-1)!.slice(2, 4)).toEqual(['gray-2', null]);
  expect(screen.queryByRole('button', { name: /^Patch gray-2/ })).toBeNull();
});

test('a new patch that is changed before it was sent goes as a new one', async () => {
  const { user } = show(<Regions view={viewOf()} />);
  await user.click(panel().getByRole('button', { name: 'Add a patch' }));
  await choose(user, 'What gray-2 measures', 'edge: sharpness');
  await settle();
  // However fast the hand was: what goes along as seen is what was sent before, and nothing that wasn't.
  expect(placed.at(-1)!.slice(2, 4)).toEqual(['gray-2', expect.objectContaining({ role: 'edge' })]);
  placed.forEach(([, , , , shown], i) => expect(shown).toEqual([null, ...placed.slice(0, i).map(([, , , to]) => to)]));
});

test('drawn with the pointer on free ground', async () => {
  show(<Regions view={viewOf(smallSession({ patches: [] }))} />);
  const picture = screen.getByTestId('picture');
  picture.getBoundingClientRect = () => ({ left: 0, top: 0, width: 1200, height: 800 }) as DOMRect;
  const at = (x: number, y: number) => ({ clientX: x, clientY: y, pointerId: 1, button: 0 });
  // jsdom has no pointer events; those of the mouse carry what is read.
  const send = (type: string, where: object) =>
    fireEvent(picture, Object.assign(new MouseEvent(type, { bubbles: true, ...where }), { pointerId: 1 }));
  act(() => void send('pointerdown', at(300, 200)));
  act(() => void send('pointermove', at(540, 360)));
  act(() => void send('pointerup', at(540, 360)));
  await settle();
  expect(placed).toHaveLength(1);
  const { rect } = placed[0][3]!;
  expect(rect).toEqual({
    x: expect.closeTo(0.25, 6),
    y: expect.closeTo(0.25, 6),
    width: expect.closeTo(0.2, 6),
    height: expect.closeTo(0.2, 6),
  });
});

describe('what is proposed', () => {
  const PROPOSED = [
    { id: 'gray', role: 'neutral', rect: { x: 0.4, y: 0.4, width: 0.1, height: 0.1 }, quality: 'good', reason: 'even' },
    { id: 'edge', role: 'edge', rect: { x: 0.1, y: 0.1, width: 0.1, height: 0.1 }, quality: 'fair', reason: 'slanted' },
  ];

  test('is asked for where a scene has no patch, and taken by one key', async () => {
    proposals = { patches: PROPOSED, missing: ['No even field was found.'] };
    const { user } = show(<Regions view={viewOf(smallSession({ patches: [] }))} />);
    await waitFor(() => expect(panel().getByRole('list', { name: 'Proposed places' })).toBeTruthy());
    expect(panel().getByText('No even field was found.')).toBeTruthy();
    await user.keyboard('a');
    await settle();
    expect(several).toHaveLength(1);
    expect((several[0] as [string, { id: string }[]])[1].map((one) => one.id)).toEqual(['gray', 'edge']);
    expect(panel().queryByRole('list', { name: 'Proposed places' })).toBeNull();
  });

  test('one alone, or none of them', async () => {
    proposals = { patches: PROPOSED, missing: [] };
    const { user } = show(<Regions view={viewOf(smallSession({ patches: [] }))} />);
    await user.click(await panel().findByRole('button', { name: /^Take edge/ }));
    await settle();
    expect((several[0] as [string, { id: string }[]])[1].map((one) => one.id)).toEqual(['edge']);
    await user.click(panel().getByRole('button', { name: 'None of them' }));
    expect(panel().queryByRole('list', { name: 'Proposed places' })).toBeNull();
  });

  test('gets names that no patch has', () => {
    const [patch] = asPatches(PROPOSED.slice(0, 1) as never, 'flat', smallSession().patches);
    expect(patch).toEqual({ id: 'gray-2', scene: 'flat', role: 'neutral', rect: PROPOSED[0].rect });
    expect(freeName([])).toBe('gray');
    expect(freeName([...smallSession().patches, { ...smallSession().patches[0], id: 'gray-2' }])).toBe('gray-3');
  });
});

test('scenes are tabs: each has its own patches', async () => {
  const session = smallSession({
    scenes: [
      { id: 'chart', kind: 'chart' },
      { id: 'water', kind: 'water' },
    ],
  });
  const { user } = show(<Regions view={viewOf(session)} />);
  act(() => screen.getByRole('tab', { name: 'chart' }).focus());
  await user.keyboard('{ArrowRight}');
  expect(screen.getByText(/no readable bare picture of this scene/)).toBeTruthy();
  await choose(user, /What reflects/, 'water');
  await user.type(screen.getByLabelText('Seen from its normal, °'), '52');
  await settle();
  expect(optics).toContainEqual(['session-1', 'water', { surface: 'water' }]);
  expect(optics.at(-1)).toEqual(['session-1', 'water', { incidenceDegrees: 52 }]);
  expect((seen.at(-1) as { incidenceDegrees: unknown[] }).incidenceDegrees[0]).toBeNull();
  // It goes the patches' way to the server: one note tells of both.
  expect(screen.getAllByText('Saved')).toHaveLength(1);
  // Another scene and back: what was typed is still there, though the page is the old one.
  act(() => screen.getByRole('tab', { name: 'water' }).focus());
  await user.keyboard('{ArrowLeft}');
  expect(screen.queryByLabelText('Seen from its normal, °')).toBeNull();
  await user.keyboard('{ArrowRight}');
  expect((screen.getByLabelText('Seen from its normal, °') as HTMLInputElement).value).toBe('52');
  expect(screen.getByLabelText(/What reflects/).textContent).toBe('water');
});

test('light that is refused is told, and stays as it was typed', async () => {
  answers = [() => Promise.resolve({ ok: false, error: 'Another window changed this session.' })];
  const { user } = show(<Regions view={viewOf(smallSession({ scenes: [{ id: 'chart', kind: 'screen' }] }))} />);
  await user.type(screen.getByLabelText(/A right mark would be brightest/), '−10');
  await settle();
  expect(screen.getByText(/Another window changed this session/)).toBeTruthy();
  expect(optics.at(-1)).toEqual(['session-1', 'chart', { screenDegrees: -10 }]);
  expect((screen.getByLabelText(/A right mark would be brightest/) as HTMLInputElement).value).toBe('−10');
});

describe('an angle that can’t be one', () => {
  const mark = () => screen.getByLabelText<HTMLInputElement>(/A right mark would be brightest/);
  const scene = { id: 'chart', kind: 'screen' as const, optics: { screenDegrees: 10 } };

  test.each(['5000', 'ten', '-', '1e9'])('%s is told and not kept', async (words) => {
    const { user } = show(<Regions view={viewOf(smallSession({ scenes: [scene] }))} />);
    fireEvent.change(mark(), { target: { value: words } });
    await settle();
    expect(optics).toEqual([]);
    expect(screen.getByRole('alert').textContent).toBe('An angle from −360 to 360; 10° is kept until then.');
    expect(mark().getAttribute('aria-invalid')).toBe('true');
    // Put right, it goes to the server and the sentence goes.
    await user.clear(mark());
    await user.type(mark(), '12,5');
    await settle();
    expect(screen.queryByRole('alert')).toBeNull();
    expect(optics.at(-1)).toEqual(['session-1', 'chart', { screenDegrees: 12.5 }]);
  });

  test('an empty field forgets it', async () => {
    const { user } = show(<Regions view={viewOf(smallSession({ scenes: [scene] }))} />);
    await user.clear(mark());
    await settle();
    expect(optics).toEqual([['session-1', 'chart', { screenDegrees: null }]]);
  });
});

test('half a place of a sky is none; both halves are a place, and one taken away takes it back', async () => {
  const { user } = show(<Regions view={viewOf(smallSession({ scenes: [{ id: 'chart', kind: 'sky' }] }))} />);
  await user.type(screen.getByLabelText('Latitude, ° north'), '-45.5');
  await settle();
  expect(optics.at(-1)).toEqual(['session-1', 'chart', { place: null }]);
  await user.type(screen.getByLabelText('Longitude, ° east'), '170');
  await settle();
  expect(optics.at(-1)).toEqual(['session-1', 'chart', { place: { latitude: -45.5, longitude: 170 } }]);
  await user.type(screen.getByLabelText('Heading, ° from north'), '90');
  await user.type(screen.getByLabelText('Up from the horizon, °'), '20');
  await settle();
  expect(optics.at(-1)).toEqual(['session-1', 'chart', { view: { azimuth: 90, altitude: 20 } }]);
  await user.clear(screen.getByLabelText('Latitude, ° north'));
  await settle();
  expect(optics.at(-1)).toEqual(['session-1', 'chart', { place: null }]);
});

describe('names and copies', () => {
  test('a patch is named, and its name stands in the list and on the picture; its id stays', async () => {
    const { user } = show(<Regions view={viewOf()} />);
    await user.type(panel().getByLabelText('Name'), 'card');
    await settle();
    expect(panel().getByRole('button', { name: /^card/ })).toBeTruthy();
    expect(screen.getByRole('button', { name: /^Patch card:/ })).toBeTruthy();
    expect(renamed.at(-1)).toEqual(['session-1', 'gray', 'card', expect.arrayContaining([null])]);
    await user.clear(panel().getByLabelText('Name'));
    await settle();
    // What was sent from here is no stranger's.
    expect(renamed.at(-1)).toEqual(['session-1', 'gray', null, expect.arrayContaining([null, 'card'])]);
    expect(panel().getByRole('button', { name: /^gray/ })).toBeTruthy();
  });

  test('all patches of a scene are copied to another one at once, and not doubled', async () => {
    const session = smallSession();
    session.scenes = [...session.scenes, { ...session.scenes[0], id: 'tele' }];
    const { user } = show(<Regions view={viewOf(session)} />);
    const here = session.patches.filter((one) => one.scene === session.scenes[0].id);
    await choose(user, 'Copy these patches to another scene', 'tele');
    await settle();
    const [, copies] = several.at(-1) as [string, { id: string; scene: string; rect: Rect; role: string }[]];
    expect(copies.map(({ scene, rect, role }) => ({ scene, rect, role }))).toEqual(
      here.map(({ rect, role }) => ({ scene: 'tele', rect, role })),
    );
    expect(new Set([...copies, ...here].map((one) => one.id)).size).toBe(2 * here.length);
    const count = several.length;
    await choose(user, 'Copy these patches to another scene', session.scenes[0].id);
    await settle();
    expect(several).toHaveLength(count);
  });
});
