import { emptyRow, meaning, pasted, problemOf, rowOf, typed } from './rows';

const nd8 = rowOf({ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, massGrams: 2.4 });

test('a cell that can’t be read keeps its text, and the filter what it was', () => {
  const row = typed(nd8, 'label', 'eight');
  expect(row.text.label).toBe('eight');
  expect(row.filter.nominal).toEqual({ ndFactor: 8 });
  expect(problemOf('label', 'eight')).toContain('“eight”');
  const fixed = typed(row, 'label', '0.9');
  expect(fixed.filter.nominal).toEqual({ opticalDensity: 0.9 });
  expect(problemOf('mass', '-1')).not.toBeNull();
  expect(problemOf('mass', '2,4 g')).toBeNull();
  expect(problemOf('price', '')).toBeNull();
  expect(problemOf('name', ' ')).not.toBeNull();
});

test('a label says the kind where it can; a bare strength leaves what was chosen', () => {
  expect(typed(nd8, 'label', 'VND 2-5').filter.kind).toBe('variable-nd');
  const both = { ...nd8, filter: { ...nd8.filter, kind: 'nd-polarizer' as const } };
  expect(typed(both, 'label', 'ND16').filter.kind).toBe('nd-polarizer');
  const variable = typed(nd8, 'label', 'VND 2-5');
  expect(typed(variable, 'label', 'ND4').filter.kind).toBe('nd');
});

test('a number that is taken out is gone', () => {
  expect(typed(nd8, 'mass', '').filter).not.toHaveProperty('massGrams');
  expect(typed(nd8, 'mass', '2,6').filter.massGrams).toBe(2.6);
});

test('cells are pasted from the one at hand on, rows are added; with heads whole filters are', () => {
  const cells = pasted(
    [nd8],
    [
      ['ND16', '3'],
      ['ND32', '3,5', '12', 'beyond the table'],
    ],
    { row: 0, cell: 'label' },
  );
  expect(cells.problems).toEqual([]);
  expect(cells.rows.map(({ filter }) => [filter.name, filter.nominal, filter.massGrams, filter.price])).toEqual([
    ['ND8', { ndFactor: 16 }, 3, undefined],
    ['unmarked', { ndFactor: 32 }, 3.5, 12],
  ]);
  const heads = pasted(
    [nd8],
    [
      ['mass', 'filter'],
      ['4', 'ND8'],
      ['heavy', 'ND4'],
    ],
    { row: 0, cell: 'name' },
  );
  expect(heads.rows.map(({ filter }) => filter.id)).toEqual(['nd8', 'nd8-2', 'nd4']);
  expect(heads.problems[0]).toContain('Row 3');
  const bad = pasted([nd8], [['ND8', 'nothing known']], { row: 0, cell: 'name' });
  expect(bad.problems[0]).toContain('Row 1');
});

test('new rows have ids of their own, and every strength a meaning', () => {
  const first = emptyRow([nd8]);
  expect(emptyRow([nd8, first]).filter.id).not.toBe(first.filter.id);
  expect(meaning(first.filter)).toBe('unmarked');
  expect(meaning(nd8.filter)).toBe('3.00 stops · ND8 · D 0.90 · 13 %');
  expect(meaning({ ...nd8.filter, nominal: { stopsRange: [2, 5] } })).toBe('2.00 to 5.00 stops');
});
