/** @jest-environment jsdom */
/** What stands around every page: the line of stages, keys, and pages that come or fail. */
import { act, fireEvent, render, screen, within } from '@testing-library/react';
import { beadsOf } from './beads';
import { Header } from './Header';
import { ChosenRoom, GrayRoom } from './controls/room';
import { roomNamed } from './controls/roomCookie';
import { KeyHelp } from './KeyHelp';
import { useKeys } from './keys';
import { PageComing } from './PageComing';
import { PageFailed } from './PageFailed';
import { useSelectedFilter } from './selection';
import { forgetWays, went } from './testing/navigation';
import { show } from './testing/render';
import { plainReadings, readingsOf, smallSession, viewOf } from './testing/sessions';

beforeEach(() => {
  forgetWays();
  window.history.replaceState(null, '', '/');
});

describe('the line of stages', () => {
  test('in a session every stage is a link, the one at hand is marked', () => {
    show(<Header session={{ id: 's', title: 'Bench' }} stage="compare" />);
    expect(screen.getByText('Bench')).toBeTruthy();
    const here = screen.getByRole('link', { name: 'Compare' });
    expect(here.getAttribute('aria-current')).toBe('page');
    expect(screen.getByRole('link', { name: 'Verdict' }).getAttribute('href')).toBe('/sessions/s/verdict');
  });

  test('without one those that need a session are named but not entered', () => {
    show(<Header stage="kits" />);
    expect(screen.queryByRole('link', { name: 'Compare' })).toBeNull();
    expect(screen.getByText('Compare').closest('[aria-disabled]')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Plan' }).getAttribute('href')).toBe('/plan');
  });

  test('digits go there, but not from a field', async () => {
    const { user } = show(
      <>
        <Header session={{ id: 's', title: 'Bench' }} />
        <input aria-label="Title" />
      </>,
    );
    await user.keyboard('8');
    expect(went.pushed).toEqual(['/sessions/s/verdict']);
    screen.getByLabelText('Title').focus();
    await user.keyboard('7');
    expect(went.pushed).toHaveLength(1);
  });
});

describe('keys', () => {
  test('are heard everywhere but with others held, and once taken are not the browser’s any more', () => {
    const heard: string[] = [];
    function Listener() {
      useKeys((key) => {
        heard.push(key);
        return key === 'a';
      });
      return null;
    }
    render(<Listener />);
    expect(fireEvent.keyDown(document.body, { key: 'a' })).toBe(false);
    expect(fireEvent.keyDown(document.body, { key: 'b' })).toBe(true);
    fireEvent.keyDown(document.body, { key: 'c', ctrlKey: true });
    expect(heard).toEqual(['a', 'b']);
  });

  test('? and a button that says so show those of the page, and those that hold everywhere', async () => {
    window.history.replaceState(null, '', '/sessions/s/regions');
    const { user } = show(<KeyHelp />);
    await user.keyboard('?');
    const list = await screen.findByRole('dialog', { name: 'Keys' });
    expect(within(list).getByRole('region', { name: 'Regions' }).textContent).toContain('propose places');
    expect(within(list).getByRole('region', { name: 'Everywhere' })).toBeTruthy();
    expect(within(list).queryByRole('region', { name: 'Compare' })).toBeNull();
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Keys of this page' }));
    expect(await screen.findByRole('dialog', { name: 'Keys' })).toBeTruthy();
    window.history.replaceState(null, '', '/');
  });
});

describe('the session that one came from', () => {
  afterEach(() => sessionStorage.clear());

  test('stays on pages of none that are gone back from, and there alone', () => {
    const { unmount } = show(<Header session={{ id: 's1', title: 'Bench' }} stage="verdict" />);
    unmount();
    const second = show(<Header keeps />);
    expect(screen.getByRole('link', { name: /^Bench/ }).getAttribute('href')).toBe('/sessions/s1/details');
    expect(screen.getByRole('link', { name: /Verdict/ }).getAttribute('href')).toBe('/sessions/s1/verdict');
    second.unmount();
    show(<Header />);
    expect(screen.queryByRole('link', { name: /^Bench/ })).toBeNull();
  });

  test('what can’t be read is none', () => {
    sessionStorage.setItem('glade.session', '{"id":3');
    show(<Header keeps />);
    expect(screen.queryByRole('link', { name: /Verdict/ })).toBeNull();
  });
});

describe('the room', () => {
  const clear = () => {
    document.cookie = 'glade-room=; max-age=0; path=/';
    delete document.documentElement.dataset.room;
  };
  afterEach(clear);

  test('is changed by a button, for the whole page, and kept for the next visit', async () => {
    const { user } = show(
      <ChosenRoom first="gray">
        <Header />
      </ChosenRoom>,
    );
    await user.click(screen.getByRole('button', { name: 'Bright room' }));
    expect(document.documentElement.dataset.room).toBe('paper');
    expect(document.cookie).toContain('glade-room=paper');
    await user.click(screen.getByRole('button', { name: 'Gray room' }));
    expect(document.documentElement.dataset.room).toBe('gray');
    expect(roomNamed('paper')).toBe('paper');
    expect(roomNamed('neon')).toBe('gray');
  });

  test('pictures stay in the gray one', () => {
    show(
      <ChosenRoom first="paper">
        <GrayRoom>
          <p>picture</p>
        </GrayRoom>
      </ChosenRoom>,
    );
    expect(screen.getByText('picture').closest('[data-room]')?.getAttribute('data-room')).toBe('gray');
  });
});

test('the chosen filter is in the address; brackets walk along the ladder by strength', async () => {
  function Chosen() {
    const readings = readingsOf([plainReadings('nd4', 2), plainReadings('nd8', 3)]);
    const [selected, select] = useSelectedFilter(beadsOf(smallSession(), readings), 'nd8');
    return (
      <button type="button" onClick={() => select('nd4')}>
        {selected}
      </button>
    );
  }
  const { user } = show(<Chosen />);
  expect(screen.getByRole('button').textContent).toBe('nd8');
  await user.keyboard(']');
  expect(window.location.search).toBe('?filter=nd4');
  await user.keyboard(']');
  expect(window.location.search).toBe('?filter=nd8');
  await user.click(screen.getByRole('button'));
  expect(window.location.search).toBe('?filter=nd4');
});

describe('pages that are not there yet', () => {
  test('one that comes says so', () => {
    show(<PageComing stage="kits" />);
    expect(screen.getByRole('status').textContent).toBe('Coming …');
    expect(screen.getByRole('main').getAttribute('aria-busy')).toBe('true');
  });

  test('one that failed says what is safe and can be tried again', async () => {
    const again = jest.fn();
    const { user } = show(<PageFailed onAgain={again} />);
    expect(screen.getByText(/Your sessions and pictures are safe/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    expect(again).toHaveBeenCalled();
  });
});

describe('beads', () => {
  test('labels before measuring, what was found after, spans of filters that have one', () => {
    const before = beadsOf(smallSession(), null);
    expect(before.map((one) => [one.id, one.labelStops, one.found])).toEqual([
      ['nd4', 2, null],
      ['nd8', 3, null],
    ]);
    const readings = readingsOf([
      plainReadings('nd4', 2.1),
      plainReadings('nd8', 3, {
        density: undefined,
        polarizer: { brightest: { value: 1.5, u95: 0.01 } } as never,
      }),
    ]);
    const [nd4, nd8] = beadsOf(smallSession(), readings);
    expect(nd4).toMatchObject({ found: { value: 2.1 }, span: null, verdict: 'true' });
    // A darkest that nobody knows lies anywhere beyond.
    expect(nd8).toMatchObject({ found: null, span: { low: 1.5, high: Infinity } });
    expect(viewOf(smallSession(), { readings }).beads).toHaveLength(2);
    act(() => undefined);
  });
});
