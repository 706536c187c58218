/** Carrying files by keys: the row that one would point at. */
import { announced, nextRow } from './carrying';

/** Two abreast: bare | ND4, then ND8 | ND16. */
const ROWS = new Map([
  ['bare', { left: 0, top: 0, width: 400, height: 100 }],
  ['nd4', { left: 440, top: 0, width: 400, height: 100 }],
  ['nd8', { left: 0, top: 100, width: 400, height: 100 }],
  ['nd16', { left: 440, top: 100, width: 400, height: 100 }],
]);
const tileIn = (row: string) => ({
  left: ROWS.get(row)!.left + 120,
  top: ROWS.get(row)!.top + 5,
  width: 132,
  height: 90,
});

test.each([
  ['bare', 'ArrowDown', 'nd8'],
  ['bare', 'ArrowRight', 'nd4'],
  ['nd16', 'ArrowUp', 'nd4'],
  ['nd16', 'ArrowLeft', 'nd8'],
  ['bare', 'ArrowUp', null],
  ['nd8', 'ArrowDown', null],
  ['bare', 'Enter', null],
])('from %s, %s leads to %s', (from, key, to) => {
  expect(nextRow(tileIn(from), key, ROWS)).toBe(to);
});

test('one below the other, arrows go row by row', () => {
  const column = new Map([0, 1, 2].map((i) => [`row ${i}`, { left: 0, top: 100 * i, width: 900, height: 100 }]));
  expect(nextRow({ left: 700, top: 110, width: 132, height: 80 }, 'ArrowDown', column)).toBe('row 2');
  expect(nextRow({ left: 700, top: 110, width: 132, height: 80 }, 'ArrowUp', column)).toBe('row 0');
});

test('what is carried is read out by the names of rows', () => {
  const words = announced(new Map([['row', 'ND8, Chart']]));
  const active = { id: 'a.png' } as never;
  expect(words.onDragOver!({ active, over: { id: 'row' } } as never)).toBe('Over ND8, Chart.');
  expect(words.onDragEnd!({ active, over: { id: 'row' } } as never)).toBe('a.png is laid on ND8, Chart.');
  expect(words.onDragEnd!({ active, over: null } as never)).toBe('a.png stays.');
});
