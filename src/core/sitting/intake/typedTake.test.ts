/** What is typed into a take's row. */
import { applyEdits } from '../../session/edits';
import { takeSchema } from '../../session/schema';
import { asTyped, editsOfTakes } from './typedTake';

const take = { id: 'nd8', filter: 'nd8', scene: 'chart', files: ['a.png'], exposure: { shutter: 0.5, iso: 100 } };
const document = { takes: [take] };
const row = asTyped(takeSchema.parse(take));

test('a row shows what is known, and nothing for what the files are asked', () => {
  expect(row).toEqual({ filter: 'nd8', shutter: '0.5', iso: '100', fNumber: '', ringDegrees: '', mark: '', turn: '' });
});

test('what is typed lands in its field; emptied fields and what they lay in go', () => {
  const edits = editsOfTakes(document, [
    { id: 'nd8', seen: row, to: { shutter: '1/4', iso: '', ringDegrees: '30,5', turn: '0–360', filter: null } },
  ]);
  const { document: next, refused } = applyEdits(document, edits);
  expect(refused).toEqual([]);
  expect((next.takes as object[])[0]).toEqual({
    ...take,
    filter: null,
    exposure: { shutter: '1/4' },
    setting: { ringDegrees: 30.5 },
    turn: { fromDegrees: 0, toDegrees: 360 },
  });
  const forgotten = applyEdits(next, editsOfTakes(next, [{ id: 'nd8', seen: { ringDegrees: '30.5' }, to: { ringDegrees: '' } }])); // prettier-ignore
  expect((forgotten.document.takes as object[])[0]).not.toHaveProperty('setting');
});

test('a field that isn’t as the row showed it is refused, others of the row are taken', () => {
  const theirs = { takes: [{ ...take, exposure: { shutter: '1/2', iso: 100 } }] };
  const { document: next, refused } = applyEdits(
    theirs,
    editsOfTakes(theirs, [{ id: 'nd8', seen: row, to: { shutter: '1/4', iso: '200' } }]),
  );
  expect(refused).toEqual([{ at: ['takes', 'nd8', 'exposure', 'shutter'], stands: '1/2', wanted: '1/4' }]);
  expect((next.takes as (typeof take)[])[0].exposure).toEqual({ shutter: '1/2', iso: 200 });
});

test('a take that is gone is not made anew by what is typed', () => {
  const { refused } = applyEdits({ takes: [] }, editsOfTakes({ takes: [] }, [{ id: 'nd8', seen: row, to: { iso: '200' } }])); // prettier-ignore
  expect(refused).toHaveLength(1);
});
