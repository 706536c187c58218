import { parseKitShorthand } from '../kits/shorthand';
import { parseSession } from '../../session/parse';
import { formatTurn, parseTurn } from './turnText';
import { guessFilter, guessScene } from './names';
import { missingInDraft, sessionFromDraft, type Draft, type DraftPicture } from './draft';

const { filters } = parseKitShorthand('ND4 8 16 64 ND16PL CPL');

test.each([
  ['chart-nd8-1.tif', 'nd8'],
  ['ND16_002.jpg', 'nd16'],
  ['nd16pl 45deg take2.png', 'nd16pl'],
  ['folder/ND64.tif', 'nd64'],
  ['bare-1.tif', null],
  ['IMG nofilter 3.jpg', null],
  ['cpl.png', 'cpl'],
  ['DSC_0042.tif', undefined],
  ['nd640.tif', undefined],
  ['chart-3stop.tif', 'nd8'],
])('%s was shot with %s', (name, expected) => expect(guessFilter(name, filters)).toBe(expected));

const picture = (
  path: string,
  filter: string | null | undefined,
  shutter = '1/2000',
  capturedAt: string | null = null,
): DraftPicture => ({
  path,
  ...guessScene(path),
  filter,
  shutter,
  iso: '100',
  fNumber: '2.8',
  capturedAt,
});
const draft = (pictures: DraftPicture[]): Draft => ({
  title: '',
  kitName: '',
  shorthand: 'ND4 8',
  apertureFixed: false,
  response: { kind: 'srgb' },
  pictures,
});

test('what is missing is said in sentences', () => {
  expect(missingInDraft(draft([picture('a.tif', null), picture('b.tif', 'nd8')]))).toEqual([]);
  expect(missingInDraft(draft([picture('a.tif', 'nd4'), picture('b.tif', 'nd8')]))[0]).toContain(
    'None of the pictures is bare',
  );
  expect(missingInDraft(draft([picture('a.tif', undefined), picture('b.tif', null, '')]))).toEqual([
    'Say which filter one picture was shot with.',
    'Enter the exposure of one picture.',
  ]);
  expect(missingInDraft({ ...draft([]), shorthand: '' })[0]).toContain('Type the kit');
});

test('pictures in a row with one filter and exposure are repeats of a take', () => {
  const session = parseSession(
    sessionFromDraft(
      draft([
        picture('a1.tif', null),
        picture('a2.tif', null),
        picture('b1.tif', 'nd8', '1/250'),
        picture('b2.tif', 'nd8', '1/250'),
        picture('c.tif', null),
      ]),
    ),
  );
  expect(session.takes.map((take) => [take.id, take.files.length])).toEqual([
    ['bare-1', 2],
    ['nd8-1', 2],
    ['bare-2', 1],
  ]);
  expect(session.takes[1].exposure).toEqual({ shutter: '1/250', iso: 100, fNumber: 2.8 });
});

test('scenes and brackets are told by names, and become scenes and takes', () => {
  const pictures = [
    ...['1/4000', '1/2000', '1/1000'].map((shutter, i) => picture(`bracket-${i + 1}.tif`, null, shutter)),
    picture('chart-bare.tif', null),
    picture('chart-nd8.tif', 'nd8', '1/250'),
    picture('flat-bare.tif', null),
    picture('flat-nd8.tif', 'nd8', '1/250'),
  ];
  const session = parseSession(sessionFromDraft({ ...draft(pictures), response: { kind: 'bracket' } }));
  expect(session.scenes).toEqual([
    { id: 'chart', kind: 'chart' },
    { id: 'flat', kind: 'flat' },
  ]);
  expect(session.takes.map(({ id, scene, role }) => [id, scene, role])).toEqual([
    ['bracket-1', 'chart', 'bracket'],
    ['bracket-2', 'chart', 'bracket'],
    ['bracket-3', 'chart', 'bracket'],
    ['bare-1', 'chart', 'measure'],
    ['nd8-1', 'chart', 'measure'],
    ['flat-bare-1', 'flat', 'measure'],
    ['flat-nd8-1', 'flat', 'measure'],
  ]);
  expect(session.patches).toEqual([]);
  const without = pictures.filter(({ path }) => !path.startsWith('bracket') && path !== 'flat-bare.tif');
  expect(missingInDraft({ ...draft(without), response: { kind: 'bracket' } })).toEqual([
    expect.stringContaining('Mark the bare pictures of the bracket'),
    'The scene “flat” has no bare picture to compare with.',
  ]);
});

test('pictures are put in the order of their times', () => {
  const session = parseSession(
    sessionFromDraft(
      draft([
        picture('late.tif', 'nd8', '1/250', '2026-05-14T09:10:00Z'),
        picture('early.tif', null, '1/2000', '2026-05-14T09:00:00Z'),
      ]),
    ),
  );
  expect(session.takes.map((take) => take.files[0])).toEqual(['early.tif', 'late.tif']);
});

test('headings of a turn are read as people write them', () => {
  expect(parseTurn('0–360')).toEqual({ fromDegrees: 0, toDegrees: 360 });
  expect(parseTurn(' 350° to 20° ')).toEqual({ fromDegrees: 350, toDegrees: 20 });
  expect(parseTurn('90-450')).toEqual({ fromDegrees: 90, toDegrees: 450 });
  expect(parseTurn('north')).toBeNull();
  expect(parseTurn('10–10')).toBeNull();
  expect(formatTurn(parseTurn('0 to 360')!)).toBe('0–360');
});
