/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import { StopMap } from './StopMap';

/** Four by two cells, each darker than the one before by a tenth of a stop. */
const map = { columns: 4, rows: 2, stops: [0, 1, 2, 3, 4, 5, 6, 7].map((k) => -k / 10) };

test('the figure of the place that is pointed at is told, and only while it is', () => {
  render(<StopMap map={map} title="The filter adds" darkest={-1} />);
  const drawing = screen.getByRole('img');
  drawing.getBoundingClientRect = () => ({ left: 100, top: 50, width: 400, height: 200 }) as DOMRect;
  expect(screen.queryByText(/here/)).toBeNull();
  const CASES: [x: number, y: number, figure: string][] = [
    [110, 60, '0.000'],
    [499, 149, '−0.300'],
    [250, 240, '−0.500'],
    // On the very edge it is the last cell.
    [500, 250, '−0.700'],
  ];
  for (const [clientX, clientY, figure] of CASES) {
    fireEvent(drawing, new MouseEvent('pointermove', { bubbles: true, clientX, clientY }));
    expect(screen.getByText(figure)).toBeTruthy();
  }
  fireEvent.pointerLeave(drawing);
  expect(screen.queryByText(/here/)).toBeNull();
});
