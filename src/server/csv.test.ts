import { parse } from 'csv-parse/sync';
import { csvText, fromText } from './csv';

const written = (cell: string) => parse(csvText([[cell]]))[0][0] as string;

test.each([
  ['=HYPERLINK("http://elsewhere.example")', '\'=HYPERLINK("http://elsewhere.example")'],
  ['@SUM(A1)', "'@SUM(A1)"],
  ['+1+cmd', "'+1+cmd"],
  ['-2+3', "'-2+3"],
  ['\tx', "'\tx"],
  ['\uFF1D1', "'\uFF1D1"],
])('%j is marked as text', (cell, marked) => {
  expect(written(cell)).toBe(marked);
  expect(fromText(marked)).toBe(cell);
});

test.each(['-0.0312', '+1', '-4e-5', '.5', 'ND8', 'a=b', '', "'quoted'", 'two\nlines', 'a "b", c'])(
  '%j stays as it is',
  (cell) => {
    expect(written(cell)).toBe(cell);
    expect(fromText(cell)).toBe(cell);
  },
);

test('a quote that somebody typed before a formula is theirs: what is read back is what was written', () => {
  expect(fromText(written("'x"))).toBe("'x");
  expect(fromText(written('=1'))).toBe('=1');
});
