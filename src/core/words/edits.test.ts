/** What history and refused changes say. */
import { changeOf, differences } from '../session/edits';
import { describeChanges, refusedEdit } from './edits';

const told = (before: unknown, after: unknown) => describeChanges(differences(before, after).map(changeOf));

test('a change is told by whose it is and what of it', () => {
  const take = { id: 'nd8', files: ['a'], exposure: { shutter: '1/8', iso: 100 } };
  const before = { title: 'Weir', takes: [take], patches: [] };
  expect(told(before, { ...before, title: 'Dam' })).toBe('title');
  expect(told(before, { ...before, takes: [{ ...take, exposure: { shutter: '1/4', iso: 200 } }] })).toBe(
    'take “nd8”: shutter, ISO',
  );
  expect(told(before, { ...before, patches: [{ id: 'gray' }] })).toBe('patch “gray” added');
  expect(told(before, { ...before, takes: [] })).toBe('take “nd8” removed');
  expect(told(before, { ...before, takes: [{ ...take, files: ['a', 'b'] }] })).toBe('file “b” added');
});

test('many changes are counted', () => {
  const takes = [1, 2, 3, 4, 5].map((n) => ({ id: `t${n}`, filter: null as string | null }));
  const after = takes.map((one) => ({ ...one, filter: 'nd8' }));
  expect(told({ takes }, { takes: after })).toBe('5 takes: filter');
  expect(told({ takes }, { takes: [...after.slice(0, 2), ...takes.slice(2)] })).toBe(
    'take “t1”: filter; take “t2”: filter',
  );
  const patches = Array.from({ length: 11 }, (_, n) => ({ id: `p${n}` }));
  expect(told({ takes, patches: [] }, { takes: after, title: 'x', patches })).toBe(
    '5 takes: filter; title; 11 patches added',
  );
  const unlike = takes.map((one, n) => ({ ...one, [`field${n}`]: 1 }));
  expect(told({ takes }, { takes: unlike })).toBe('take “t1”: field0; take “t2”: field1; take “t3”: field2 and 2 more');
});

test('a refused change says what stands and what was not kept', () => {
  expect(refusedEdit({ at: ['takes', 'nd8', 'exposure', 'shutter'], stands: '1/60', wanted: '1/4' })).toBe(
    'The shutter of take “nd8” was changed elsewhere meanwhile and is “1/60” now; “1/4” was not kept.',
  );
  expect(refusedEdit({ at: ['patches', 'gray'], stands: undefined, wanted: { id: 'gray' } })).toBe(
    'Patch “gray” was changed elsewhere meanwhile and is gone; your change was not kept.',
  );
});
