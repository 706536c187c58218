/** @jest-environment jsdom */
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Contents } from './Contents';
import { partNamed } from './parts';

/** Where parts begin on a page, from the top of the window: there is no layout here. */
function layOut(tops: Record<string, number>) {
  for (const part of document.querySelectorAll<HTMLElement>('[data-part]')) {
    const top = tops[part.dataset.part!];
    part.getBoundingClientRect = () => ({ top }) as DOMRect;
  }
}

const went: string[] = [];
beforeEach(() => {
  went.length = 0;
  Element.prototype.scrollIntoView = function (this: HTMLElement) {
    went.push(this.dataset.part!);
  };
  window.matchMedia = () => ({ matches: true }) as MediaQueryList;
  Object.defineProperty(document.documentElement, 'scrollHeight', { value: 5000, configurable: true });
});

const Page = ({ names }: { names: readonly string[] }) => (
  <>
    <main id="main">
      {names.map((name) => (
        <section key={name} {...partNamed(name)} />
      ))}
    </main>
    <Contents />
  </>
);

const current = () => screen.getByRole('navigation').querySelector('[aria-current]')?.textContent;

test('the part that is read is marked as the page moves', () => {
  render(<Page names={['Figures', 'Notes', 'As a whole']} />);
  layOut({ Figures: 0, Notes: 400, 'As a whole': 900 });
  act(() => void window.dispatchEvent(new Event('scroll')));
  expect(current()).toBe('Figures');
  layOut({ Figures: -700, Notes: -300, 'As a whole': 200 });
  act(() => void window.dispatchEvent(new Event('scroll')));
  expect(current()).toBe('As a whole');
});

test('pressing goes there; arrows walk, and stop at both ends', async () => {
  const user = userEvent.setup();
  render(<Page names={['Figures', 'Notes', 'As a whole']} />);
  await user.click(screen.getByRole('button', { name: 'Notes' }));
  await user.keyboard('{ArrowDown}{ArrowDown}{ArrowUp}{ArrowUp}{ArrowUp}');
  expect(went).toEqual(['Notes', 'As a whole', 'Notes', 'Figures']);
  expect(document.activeElement?.textContent).toBe('Figures');
});

test('another filter’s part takes the place of the one before; a page of one part has no contents', async () => {
  const { rerender } = render(<Page names={['Figures', 'ND8 up close']} />);
  rerender(<Page names={['Figures', 'ND16 up close']} />);
  expect(await screen.findByRole('button', { name: 'ND16 up close' })).toBeTruthy();
  rerender(<Page names={['Figures']} />);
  await act(() => Promise.resolve());
  expect(screen.queryByRole('navigation')).toBeNull();
});
