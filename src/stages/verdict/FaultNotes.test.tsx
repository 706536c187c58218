/** @jest-environment jsdom */
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Fault } from '@/core/session/readings';
import { FaultNotes } from './FaultNotes';

const noteRing = jest.fn();
jest.mock('@/server/takeActions', () => ({ noteRingAction: (...words: unknown[]) => noteRing(...words) }));

const fault = (change: Partial<Fault> = {}): Fault => ({
  code: 'clipped',
  severity: 'error',
  takes: ['run'],
  message: 'run: 2 % of “gray” is clipped.',
  remedy: 'Shoot again with a shorter shutter.',
  ...change,
});

test('nothing wrong, nothing shown', () => {
  const { container } = render(<FaultNotes faults={[]} sessionId="s" />);
  expect(container.innerHTML).toBe('');
});

test('a note says which filter, what, and what to do; its gravity has a word beside its color', () => {
  render(
    <FaultNotes
      faults={[
        { fault: fault(), filters: ['ND8'] },
        { fault: fault({ severity: 'warning', message: 'The light drifted.' }), filters: [] },
      ]}
      sessionId="s"
    />,
  );
  const [clipped, drifted] = screen.getAllByRole('listitem');
  expect(clipped.textContent).toBe('ND8: run: 2 % of “gray” is clipped. Shoot again with a shorter shutter.');
  expect(within(clipped).getByLabelText('Withheld or left out')).toBeTruthy();
  expect(within(drifted).getByLabelText('Worth a look')).toBeTruthy();
});

test('three of a kind are one note with the others behind it; two stay two', async () => {
  const kind = (n: number) => Array.from({ length: n }, (_, i) => ({ fault: fault({ message: `Take ${i} is clipped.` }), filters: ['ND8'] })); // prettier-ignore
  const { rerender } = render(<FaultNotes faults={kind(2)} sessionId="s" />);
  expect(screen.queryByText(/more like this/)).toBeNull();
  rerender(<FaultNotes faults={kind(4)} sessionId="s" />);
  expect(screen.getByText('3 more like this')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: '3 more like this' }));
  expect(screen.getByText('Take 3 is clipped.')).toBeTruthy();
});

describe('a ring angle that is asked for', () => {
  const asked = {
    fault: fault({ code: 'ring-angle-doubtful', severity: 'warning', angles: [30, 150] }),
    filters: ['PL'],
  };

  test('is answered with a button, and the answer confirmed', async () => {
    noteRing.mockResolvedValueOnce({ ok: true });
    const user = userEvent.setup();
    render(<FaultNotes faults={[asked]} sessionId="s1" />);
    await user.click(screen.getByRole('button', { name: 'It stood at 150°' }));
    expect(noteRing).toHaveBeenCalledWith('s1', 'run', 150);
    expect((await screen.findByRole('status')).textContent).toContain('Noted at 150°');
  });

  test('tells why it could not be noted', async () => {
    noteRing.mockResolvedValueOnce({ ok: false, error: 'The take is gone.' });
    const user = userEvent.setup();
    render(<FaultNotes faults={[asked]} sessionId="s1" />);
    await user.click(screen.getByRole('button', { name: 'It stood at 30°' }));
    expect((await screen.findByRole('status')).textContent).toBe('The take is gone.');
  });
});
