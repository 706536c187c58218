/** @jest-environment jsdom */
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BudgetLine } from '@/core/session/readings';
import { BudgetBar } from './Budget';

const line = (source: string, u: number, share: number, degreesOfFreedom: number | null = null): BudgetLine => ({
  source,
  u,
  share,
  degreesOfFreedom,
  channels: [u, u / 2, u / 4],
});
const LINES = [line('light drift', 0.004, 0.64, 3), line('noise', 0.003, 0.36), line('rounding', 0.0001, 0.001)];

test('the bar names what matters, largest first, and leaves out what doesn’t', () => {
  render(<BudgetBar lines={LINES} unit="of a stop" advice="A bare take after every filter." />);
  const bar = screen.getByRole('button', { name: 'Where the ± comes from: open the table' });
  expect(bar).toHaveProperty('textContent', expect.stringContaining('light drift 64 % · noise 36 %'));
  expect(bar.textContent).not.toContain('rounding');
  expect(screen.getByText('A bare take after every filter.')).toBeTruthy();
  expect(screen.queryByRole('table')).toBeNull();
});

test('by keyboard it opens into the table, whose sum is the root of the squares', async () => {
  const user = userEvent.setup();
  render(<BudgetBar lines={LINES} unit="of a stop" degreesOfFreedom={12.4} />);
  await user.tab();
  await user.keyboard('{Enter}');
  const table = screen.getByRole('table', { name: /^Standard uncertainties in thousandths of a stop/ });
  const cells = (name: string) =>
    within(within(table).getByRole('row', { name: new RegExp(`^${name}`) }))
      .getAllByRole('cell')
      .map((cell) => cell.textContent);
  expect(cells('light drift')).toEqual(['4.00', '64 %', '3']);
  expect(cells('noise')).toEqual(['3.00', '36 %', '∞']);
  // √(4² + 3² + 0.1²) thousandths.
  expect(cells('together')).toEqual(['5.00', '', '12']);
});

test('where a figure depends on channels, theirs and the sensitivities stand beside', async () => {
  const user = userEvent.setup();
  render(<BudgetBar lines={LINES} unit="of a stop" sensitivities={{ r: 0.21, g: 0.72, b: 0.07 }} />);
  await user.click(screen.getByRole('button'));
  const row = screen.getByRole('row', { name: /^sensitivity/ });
  expect(within(row).getAllByRole('cell').slice(0, 3).map((cell) => cell.textContent)).toEqual(['0.21', '0.72', '0.07']); // prettier-ignore
  expect(screen.getByRole('row', { name: /^light drift/ }).textContent).toContain('4.002.001.00');
});
