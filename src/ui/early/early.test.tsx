/** @jest-environment jsdom */
/** What is done on a page that is drawn and doesn't run yet: the server's own drawing, taken over later by React itself. */
import { act, useState } from 'react';
import { hydrateRoot, type Root } from 'react-dom/client';
import { renderToString } from 'react-dom/server.node';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { recordEarly } from './record';
import { useEarly } from './useEarly';

/** What jsdom lacks. */
window.PointerEvent ??= class extends MouseEvent {} as typeof PointerEvent;

let asked: string[] = [];
let root: Root | null = null;

const Early = () => {
  useEarly();
  return null;
};

/** A page as ours are: held fields, boxes, a list, keys, and a form. */
function Page({ alone = false }: { alone?: boolean }) {
  const [title, setTitle] = useState('Shared bench');
  const [even, setEven] = useState(true);
  const [kind, setKind] = useState('bench');
  const [count, setCount] = useState(0);
  const [on, setOn] = useState(false);
  return (
    <main
      id="main"
      tabIndex={-1}
      onKeyDown={(event) => asked.push(`key ${event.key}`)}
      onDrop={() => asked.push('drop')}
    >
      <input
        aria-label="Title"
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        onBlur={() => asked.push(`left ${title}`)}
      />
      <label>
        <input type="checkbox" checked={even} onChange={(event) => setEven(event.target.checked)} /> even wall
      </label>
      <select aria-label="Kind" value={kind} onChange={(event) => setKind(event.target.value)}>
        <option>bench</option>
        <option>walk</option>
      </select>
      <button type="button" onPointerDown={() => asked.push('down')} onClick={() => setCount(count + 1)}>
        <i>Add</i>
      </button>
      <label>
        <button type="button" role="checkbox" aria-checked={on} onClick={() => setOn(!on)} /> darker
      </label>
      <canvas data-testid="picture" onPointerDown={() => asked.push('drawing')} onClick={() => asked.push('drawn')} />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          asked.push(`sent ${title}`);
        }}
      >
        <input aria-label="Again" defaultValue="" onChange={(event) => asked.push(`again ${event.target.value}`)} />
        <button>Send</button>
      </form>
      <a href="#elsewhere" onClick={() => asked.push('link')}>
        Elsewhere
      </a>
      {!alone && <Early />}
      <output>{JSON.stringify({ title, even, kind, count, on })}</output>
    </main>
  );
}

const said = () => JSON.parse(screen.getByRole('status').textContent) as Record<string, unknown>;
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const user = userEvent.setup({ delay: null });

/** Drawn by the server, not running. */
beforeEach(() => {
  asked = [];
  document.body.innerHTML = `<div id="page">${renderToString(<Page />)}</div>`;
  recordEarly();
});
afterEach(() => {
  act(() => root?.unmount());
  window.earlyWork?.stop();
});

/** The page begins to run, and what was done before is done again. */
async function begin(page = <Page />) {
  const work = window.earlyWork!;
  await act(async () => {
    root = hydrateRoot(document.getElementById('page')!, page);
  });
  // All is done when no more is taken down.
  while (window.earlyWork === undefined && work.deeds.length > 0)
    await act(() => new Promise((done) => setTimeout(done, 5)));
  await act(() => new Promise((done) => setTimeout(done, 20)));
}

test('a page alone forgets what was done before it ran: what this is there for', async () => {
  fireEvent.click(screen.getByText('Add'));
  await begin(<Page alone />);
  expect(said().count).toBe(0);
});

test('text, a box, a list and a button that are touched early hold once the page runs', async () => {
  await user.clear(field('Title'));
  await user.type(field('Title'), 'Lena’s bench');
  await user.click(field('even wall'));
  await user.selectOptions(field('Kind'), 'walk');
  await user.click(screen.getByText('Add'));
  await begin();
  expect(said()).toMatchObject({ title: 'Lena’s bench', even: false, kind: 'walk', count: 1 });
  expect(field('Title').value).toBe('Lena’s bench');
  // It was left already, with what was typed and not with what stood before.
  expect(asked).toEqual(['left Lena’s bench', 'down']);
});

test('a box that is a button, pressed by its label, is changed; a finger on a picture draws nothing', async () => {
  await user.click(screen.getByText('darker'));
  const picture = screen.getByTestId('picture');
  fireEvent.pointerDown(picture);
  fireEvent.click(picture);
  await begin();
  expect(said().on).toBe(true);
  expect(asked).toEqual([]);
});

test('a field that a person is still in isn’t left', async () => {
  await user.type(field('Title'), '!');
  await begin();
  expect(said().title).toBe('Shared bench!');
  expect(asked).toEqual([]);
});

test('a box that was changed and changed back is as it was', async () => {
  await user.click(field('even wall'));
  await user.click(field('even wall'));
  await begin();
  expect(said().even).toBe(true);
});

test('who presses again because nothing happened means once', async () => {
  for (let i = 0; i < 3; i++) await user.click(screen.getByText('Add'));
  await begin();
  expect(said().count).toBe(1);
});

test('keys of the page and drops come after what was done before them; links lead on by themselves', async () => {
  fireEvent.keyDown(screen.getByRole('button', { name: 'Add' }), { key: 'j' });
  fireEvent.keyDown(field('Title'), { key: 'x' });
  fireEvent.click(screen.getByText('Elsewhere'));
  await begin();
  expect(asked).toEqual(['key j']);
});

test('a form is sent once, after its fields; the browser sends nothing by itself', async () => {
  await user.type(field('Again'), 'abc');
  await user.click(screen.getByText('Send'));
  expect(window.earlyWork!.deeds.at(-1)!.event.defaultPrevented).toBe(true);
  await begin();
  expect(asked).toEqual(['again abc', 'sent Shared bench']);
});

test('a file that is dropped early does not lead away from the page', () => {
  const over = new Event('dragover', { bubbles: true, cancelable: true });
  document.body.dispatchEvent(over);
  const drop = new Event('drop', { bubbles: true, cancelable: true });
  document.body.dispatchEvent(drop);
  expect([over.defaultPrevented, drop.defaultPrevented]).toEqual([true, true]);
  expect(window.earlyWork!.deeds).toHaveLength(1);
});

test('what is done once the page runs is its own: a field is not put back to what it held before', async () => {
  await user.type(field('Title'), '1');
  await begin();
  await user.type(field('Title'), '2');
  await user.click(screen.getByText('Add'));
  expect(said()).toMatchObject({ title: 'Shared bench12', count: 1 });
});

test('a field that is typed in while early things are still being done is done by what it holds now', async () => {
  await user.click(screen.getByText('Add'));
  await user.type(field('Title'), '1');
  const work = window.earlyWork!;
  await act(async () => {
    root = hydrateRoot(document.getElementById('page')!, <Page />);
  });
  fireEvent.change(field('Title'), { target: { value: 'Newer' } });
  expect(work.deeds.some((one) => one.held === 'Shared bench1')).toBe(false);
  await act(() => new Promise((done) => setTimeout(done, 30)));
  expect(said()).toMatchObject({ title: 'Newer', count: 1 });
});

test('a part that is gone by then is left out; the rest is done', async () => {
  await user.click(screen.getByText('Send'));
  await user.click(screen.getByText('Add'));
  const sent = window.earlyWork!.deeds.find((one) => one.event.type === 'submit')!;
  sent.event = { type: 'submit', target: document.createElement('form') } as unknown as Event;
  await begin();
  await waitFor(() => expect(said().count).toBe(1));
  expect(asked).toEqual(['down']);
});
