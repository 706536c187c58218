import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { ToastRoom } from '../controls/Toasts';
import { TooltipRoom } from '../controls/Tooltip';

/** Draws a component as the application does, with a person before it. */
export function show(element: ReactElement) {
  const user = userEvent.setup({ pointerEventsCheck: 0, delay: null });
  const inRooms = (one: ReactElement) => (
    <TooltipRoom>
      <ToastRoom>{one}</ToastRoom>
    </TooltipRoom>
  );
  const drawn = render(inRooms(element));
  return { user, ...drawn, rerender: (next: ReactElement) => drawn.rerender(inRooms(next)) };
}

/** Chooses an entry of a list, as a person does by keyboard: opens it, types its first letters, presses Enter. */
export async function choose(user: ReturnType<typeof userEvent.setup>, name: string | RegExp, words: string) {
  const list = screen.getByRole('combobox', { name });
  act(() => list.focus());
  await user.keyboard('{Enter}');
  await user.click(await screen.findByRole('option', { name: words }));
}
