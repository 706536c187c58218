/** @jest-environment jsdom */
/** The viewing room's instruments as a person handles them; what is painted is tested with the painters. */
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import type { ComparedPicture, Film } from '@/server/compare';
import { comparedPicture, comparedSession } from '@/ui/testing/compared';
import { choose, show } from '@/ui/testing/render';
import { viewOf } from '@/ui/testing/sessions';
import { Blind } from './Blind';
import { startBlind, type BlindState } from './blindState';
import { BottomBar } from './BottomBar';
import { Captions, ProbeNote } from './Captions';
import { Pictures } from './Pictures';
import { AT_REST } from './playback';
import type { Room } from './scene';
import type { Shown } from './shown';
import { FIRST_CHOICE, type Choice } from './state';
import { Toolbar } from './Toolbar';
import { Transport } from './Transport';
import type { Player } from './usePlayback';
import { nextWipe, WipeHandle } from './WipeHandle';

let rounds: unknown[];
let kept: () => Promise<unknown>;
let other: () => Promise<unknown>;
jest.mock('@/server/compareActions', () => ({
  keepRoundAction: (...words: unknown[]) => (rounds.push(words), kept()),
  otherSessionsAction: () => Promise.resolve([{ id: 'one', title: 'This one' }, { id: 'two', title: 'Second sitting' }]), // prettier-ignore
  comparedAction: () => other(),
}));
beforeEach(() => {
  rounds = [];
  kept = () => Promise.resolve({ ok: true, rounds: [] });
  other = () => Promise.resolve(null);
});

const session = comparedSession;
const picture = (name: string, more: Partial<ComparedPicture> = {}) =>
  comparedPicture(name, {
    found:
      name === 'bare' ? null : { stops: 3, deltaE00: name === 'nd8' ? 0.4 : 2.5, kept: name === 'nd8' ? 0.8 : 0.95 },
    ...more,
  });
const shown = (name: string, more: Partial<ComparedPicture> = {}): Shown => ({
  picture: picture(name, more),
  bare: picture('bare'),
  session,
});
const cell = { x: 0, y: 0, width: 1000, height: 600 };
const room = { width: 1000, height: 600, frame: { width: 1200, height: 800 }, cells: [cell, { ...cell, x: 500 }], view: { x: 600, y: 400, scale: 0.7 }, wipe: { x: 0.5, y: 0.5, angle: 0 } } as unknown as Room; // prettier-ignore

describe('the wipe’s line', () => {
  const middle = { x: 0.5, y: 0.5, angle: 0 };
  test.each([
    ['ArrowLeft', false, { x: 0.48 }],
    ['ArrowRight', true, { x: 0.6 }],
    ['ArrowUp', false, { y: 0.48 }],
    ['ArrowDown', true, { y: 0.6 }],
    ['PageUp', false, { angle: -1 }],
    ['PageDown', true, { angle: 15 }],
    ['Home', false, middle],
  ] as const)('%s, Shift %s', (key, shift, change) => {
    expect(nextWipe(middle, key, shift)).toEqual({ ...middle, ...change });
  });

  test('stays on the picture; other keys leave it', () => {
    expect(nextWipe({ ...middle, x: 0.01 }, 'ArrowLeft', false)!.x).toBe(0);
    expect(nextWipe({ ...middle, y: 0.95 }, 'ArrowDown', true)!.y).toBe(1);
    expect(nextWipe(middle, 'x', false)).toBeNull();
  });

  test('is a slider that tells where it stands, moved by keys and by hand', async () => {
    const wiped = jest.fn();
    const box = { current: { getBoundingClientRect: () => ({ left: 0, top: 0, width: 1000, height: 600 }) } };
    const { user } = show(<WipeHandle box={box as never} room={room} ratio={1} onWipe={wiped} />);
    const line = screen.getByRole('slider', { name: 'The wipe’s line' });
    expect(line.getAttribute('aria-valuetext')).toBe('50 % across, 0° turned');
    line.focus();
    await user.keyboard('{ArrowRight}');
    expect(wiped).toHaveBeenLastCalledWith({ x: 0.52, y: 0.5, angle: 0 });
    act(
      () =>
        void fireEvent(
          line,
          Object.assign(new MouseEvent('pointermove', { bubbles: true, clientX: 250, clientY: 900, buttons: 1 }), {
            pointerId: 1,
          }),
        ),
    );
    expect(wiped).toHaveBeenLastCalledWith({ x: 0.25, y: 1, angle: 0 });
  });
});

test('captions stand at the foot of their cells; of a wipe one a side', () => {
  const { unmount } = show(<Captions room={room} ratio={1} captions={['bare', 'ND8', '']} wiping={false} />);
  expect(screen.getByText('ND8').style.left).toBe('512px');
  unmount();
  show(<Captions room={room} ratio={2} captions={['bare', 'ND8']} wiping />);
  expect(screen.getByText('bare').style.left).toBe('12px');
  expect(screen.getByText('ND8').style.right).toBe('12px');
});

test('what the probe read, kept on the picture', () => {
  const probed = { stops: -0.123, deltaE00: 1.25, direction: 'warm' } as never;
  show(<ProbeNote left={980} top={10} width={1000} coarse={false} probed={probed} />);
  const note = screen.getByText(/−0.12 stops · ΔE00 1.3, warm|−0.12 stops · ΔE00 1.2, warm/);
  expect(note.style.left).toBe('780px');
  expect(note.style.top).toBe('4px');
  expect(note.textContent).not.toContain('coarse');
  show(<ProbeNote left={980} top={10} width={1000} coarse probed={probed} />);
  expect(screen.getByText(/^still coarse: −0.12 stops/).style.left).toBe('690px');
});

const savingView = () => ({ toFile: jest.fn(), toReport: jest.fn() });

let reports: () => Promise<{ id: string; title: string }[]>;
jest.mock('@/server/reportActions', () => ({ reportsAction: () => reports() }));
beforeEach(() => {
  reports = () => Promise.resolve([]);
});

describe('the bars', () => {
  function Bars({ tell }: { tell: (choice: Choice) => void }) {
    const [choice, setChoice] = useState<Choice>(FIRST_CHOICE);
    const change = (part: Partial<Choice>) => {
      const next = { ...choice, ...part };
      setChoice(next);
      tell(next);
    };
    return (
      <>
        <Toolbar choice={choice} onChoice={change} />
        <BottomBar room={room} choice={choice} change={change} soft note="lies on bare as shot" saving={savingView()} />
      </>
    );
  }

  test('layout, light, marks and room', async () => {
    const told = jest.fn();
    const { user } = show(<Bars tell={told} />);
    await user.click(screen.getByRole('radio', { name: 'Side by side' }));
    await user.click(screen.getByRole('radio', { name: 'As shot' }));
    await user.click(screen.getByRole('button', { name: 'Clipping' }));
    expect(told.mock.lastCall![0]).toMatchObject({ layout: 'side', level: 'shot', marks: true });
    screen.getByRole('slider', { name: 'Lightness of the room' }).focus();
    await user.keyboard('{Home}');
    await choose(user, 'Screen', 'Display P3');
    expect(told.mock.lastCall![0]).toMatchObject({ lightness: 5, gamut: 'display-p3' });
  });

  test('own pixels, a corner, and what the note says', async () => {
    const told = jest.fn();
    const { user } = show(<Bars tell={told} />);
    await user.click(screen.getByRole('button', { name: 'Own pixels' }));
    expect(told.mock.lastCall![0].view.scale).toBe(1);
    const corners = within(screen.getByRole('group', { name: 'Jump to' })).getAllByRole('button');
    expect(corners).toHaveLength(5);
    await user.click(corners[1]);
    expect(told.mock.lastCall![0].view).toBeTruthy();
    for (const words of ['lies on bare as shot', 'drawn without graphics, coarser']) expect(screen.getByText(words)).toBeTruthy(); // prettier-ignore
  });

  test('the view is saved with what is wished for', async () => {
    const saving = savingView();
    const { user } = show(<BottomBar room={room} choice={FIRST_CHOICE} change={jest.fn()} soft={false} note={null} saving={saving} />); // prettier-ignore
    await user.click(screen.getByRole('button', { name: 'Save this view' }));
    await user.click(screen.getByRole('checkbox', { name: 'What was measured' }));
    await user.click(screen.getByRole('button', { name: 'Save as PNG' }));
    expect(saving.toFile).toHaveBeenCalledWith({ figures: false, disclosure: true });
  });

  test('the view goes into the report that was changed last, another, or a new one', async () => {
    const [second, first] = [{ id: 'r2', title: 'Second' }, { id: 'r1', title: 'First' }]; // prettier-ignore
    reports = () => Promise.resolve([second, first]);
    const saving = savingView();
    const { user } = show(<BottomBar room={room} choice={FIRST_CHOICE} change={jest.fn()} soft={false} note={null} saving={saving} />); // prettier-ignore
    const put = async (report?: string) => {
      await user.click(screen.getByRole('button', { name: 'Save this view' }));
      await waitFor(() => expect(screen.getByRole('combobox', { name: /goes into/ }).textContent).toBe('Second'));
      if (report) await choose(user, 'Report that it goes into', report);
      await user.click(screen.getByRole('button', { name: 'Put into the report' }));
    };
    await put();
    await put('First');
    await put('A new report of this session');
    const wished = { figures: true, disclosure: true };
    expect((saving.toReport as jest.Mock).mock.calls).toEqual([
      [wished, 'r2'],
      [wished, 'r1'],
      [wished, undefined],
    ]);
  });

  test('without an answer about reports a new one can be begun', async () => {
    reports = () => Promise.reject(new TypeError('fetch failed'));
    const saving = savingView();
    const { user } = show(<BottomBar room={room} choice={FIRST_CHOICE} change={jest.fn()} soft={false} note={null} saving={saving} />); // prettier-ignore
    await user.click(screen.getByRole('button', { name: 'Save this view' }));
    await user.click(await screen.findByRole('button', { name: 'Put into the report' }));
    expect(saving.toReport).toHaveBeenCalledWith({ figures: true, disclosure: true }, undefined);
  });
});

describe('clips', () => {
  const film = { from: 1, to: 5, seconds: 6, framesPerSecond: 25, steps: null } as unknown as Film;
  const player = (more: Partial<Player> = {}): Player => ({
    playback: { ...AT_REST, moment: 3 },
    playing: false,
    loop: true,
    span: { from: 0, to: 4, framesPerSecond: 25 },
    waiting: false,
    play: jest.fn(),
    setLoop: jest.fn(),
    setByRoute: jest.fn(),
    seek: jest.fn(),
    step: jest.fn(),
    shift: jest.fn(),
    problem: () => null,
    ...more,
  });

  test('played, stepped, sought and shifted', async () => {
    const one = player();
    const { user } = show(<Transport player={one} second={shown('nd8', { film })} />);
    await user.click(screen.getByRole('button', { name: 'Play' }));
    await user.click(screen.getByRole('button', { name: 'One frame back' }));
    await user.click(screen.getByRole('button', { name: 'One frame on' }));
    expect(one.play).toHaveBeenCalledWith(true);
    expect((one.step as jest.Mock).mock.calls).toEqual([[-1], [1]]);
    const slider = screen.getByRole('slider', { name: 'Moment of the clips' });
    expect(slider.getAttribute('aria-valuetext')).toBe('3.00 of 4.00 seconds');
    slider.focus();
    await user.keyboard('{ArrowRight}');
    expect((one.seek as jest.Mock).mock.lastCall![0]).toBeCloseTo(3.04, 6);
    fireEvent.change(screen.getByLabelText(/nd8 shifted by/), { target: { value: '-0.5' } });
    expect(one.shift).toHaveBeenLastCalledWith('nd8', -0.5);
  });

  test('by keys, but not while a button has the space bar', async () => {
    const one = player();
    const { user } = show(<Transport player={one} second={null} />);
    await user.keyboard(' ,.<>e');
    expect(one.play).toHaveBeenCalledTimes(1);
    expect((one.seek as jest.Mock).mock.calls).toEqual([[2], [4]]);
    expect(one.setLoop).toHaveBeenCalledWith(false);
    screen.getByRole('button', { name: 'One frame on' }).focus();
    await user.keyboard(' ');
    expect(one.play).toHaveBeenCalledTimes(1);
  });

  test('stills have no time', () => {
    show(<Transport player={player({ span: null })} second={null} />);
    expect(screen.queryByRole('group', { name: 'Clips' })).toBeNull();
  });
});

describe('which pictures', () => {
  const own = [picture('bare'), picture('nd8'), picture('nd16')];
  const tiles = (more: Partial<Parameters<typeof Pictures>[0]> = {}) =>
    show(
      <Pictures
        scenes={['chart', 'flat']}
        scene="chart"
        onScene={jest.fn()}
        layout="tiles"
        own={own}
        compared={{ ...session, pictures: own }}
        second={own[1]}
        onSecond={jest.fn()}
        shown={own.slice(0, 2).map((one) => ({ picture: one, bare: own[0], session }))}
        onPicked={jest.fn()}
        onAll={jest.fn()}
        {...more}
      />,
    );

  test('tiles are chosen, the last one stays', async () => {
    const picked = jest.fn();
    const { user } = tiles({ onPicked: picked });
    await user.click(screen.getByRole('button', { name: 'Choose tiles, 2 of 6' }));
    await user.click(screen.getByRole('checkbox', { name: /^nd16/ }));
    expect(picked.mock.lastCall![0].map((one: Shown) => one.picture.name)).toEqual(['bare', 'nd8', 'nd16']);
    await user.click(screen.getByRole('checkbox', { name: /^nd8/ }));
    expect(picked.mock.lastCall![0].map((one: Shown) => one.picture.name)).toEqual(['bare']);
  });

  test('another session’s stand beside; one that is gone is told', async () => {
    const { user } = tiles();
    await user.click(screen.getByRole('button', { name: /^Choose tiles/ }));
    await waitFor(() => expect(screen.getByRole('combobox', { name: /From another session/ })).toBeTruthy());
    await choose(user, /From another session/, 'Second sitting');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('This session is not there any more.'));
    other = () => Promise.resolve({ ...session, id: 'two', pictures: [picture('nd64')] });
    await choose(user, /From another session/, 'Second sitting');
    await waitFor(() => expect(screen.getByRole('checkbox', { name: /^nd64/ })).toBeTruthy());
  });

  test('another scene, another take', async () => {
    const scene = jest.fn();
    const second = jest.fn();
    const twice = [...own, picture('nd8', { file: 'again.tif', take: 'chart-nd8-2' })];
    const { user } = tiles({ onScene: scene, onSecond: second, layout: 'wipe', own: twice });
    await choose(user, 'Scene', 'flat');
    await choose(user, 'Take', 'chart-nd8-2');
    expect(scene).toHaveBeenCalledWith('flat');
    expect(second).toHaveBeenCalledWith('again.tif');
    expect(screen.queryByRole('button', { name: /^Choose tiles/ })).toBeNull();
  });
});

describe('blind', () => {
  const pictures = ['bare', 'nd8', 'nd16'].map((name) => shown(name));
  function Round({ tell }: { tell: (state: BlindState | null) => void }) {
    const [state, setState] = useState<BlindState | null>(() => startBlind(pictures, 'seed'));
    return state ? (
      <Blind
        state={state}
        session={viewOf()}
        onState={(next) => {
          setState(next);
          tell(next);
        }}
      />
    ) : (
      <p>left</p>
    );
  }

  test('votes are kept before the reveal, then names and figures are shown', async () => {
    const told = jest.fn();
    const { user } = show(<Round tell={told} />);
    const keep = screen.getByRole('button', { name: 'Keep the votes and show names' });
    expect(keep).toHaveProperty('disabled', true);
    const neutral = within(screen.getByRole('radiogroup', { name: 'Which is neutral?' }));
    await user.click(neutral.getByRole('radio', { name: 'B' }));
    for (const name of ['C', 'A']) await user.click(within(screen.getByRole('group', { name: 'Rank by color' })).getByRole('button', { name })); // prettier-ignore
    expect(screen.getByRole('button', { name: 'C, place 1' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'C, place 1' }));
    expect(screen.getByRole('button', { name: 'A, place 1' })).toBeTruthy();
    await user.click(keep);
    expect((rounds[0] as [string, { votes: unknown }])[1].votes).toEqual({ neutral: 1, sharpest: null, ranks: [0] });
    const result = within(await screen.findByRole('region', { name: 'Result of blind viewing' }));
    expect(result.getAllByRole('row')).toHaveLength(4);
    expect(result.getByRole('row', { name: /bare/ }).textContent).toContain('0.0');
    await user.click(result.getByRole('button', { name: 'Leave blind viewing' }));
    expect(screen.getByText('left')).toBeTruthy();
  });

  test('what could not be kept is told, and names stay hidden', async () => {
    kept = () => Promise.reject(new TypeError('Failed to fetch'));
    const { user } = show(<Round tell={jest.fn()} />);
    await user.click(within(screen.getByRole('radiogroup', { name: 'Which is sharpest?' })).getByRole('radio', { name: 'A' })); // prettier-ignore
    await user.click(screen.getByRole('button', { name: 'Keep the votes and show names' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No connection to the server'));
    expect(screen.queryByText(/nd8/)).toBeNull();
  });
});
