import { smallSession } from '@/ui/testing/sessions';
import type { Session, Take } from '../session/schema';
import { withoutSameFiles } from './sameFiles';
import { seededNormals } from '../formulas/statistics/seededNormals';
import type { OpenPicture, PictureSource } from './source';
import type { Picture, WindowRect } from './window';

const source = (contents: Record<string, string>): PictureSource => ({
  open: () => Promise.resolve(picture(() => 128, { capturedAt: '2026-05-14T09:00:00Z' })),
  readText: () => Promise.reject(new Error('nothing is read')),
  contentsOf: async (files) => new Map(files.flatMap((file) => (file in contents ? [[file, contents[file]]] : []))),
});

const take = (id: string, filter: string | null, files: string[], more: Partial<Take> = {}): Take => ({
  ...smallSession().takes[0],
  id,
  filter,
  files,
  scene: 'chart',
  role: 'measure',
  exposure: { shutter: '1/100' },
  setting: undefined,
  span: undefined,
  ...more,
});
const session = (...takes: Take[]): Session => ({ ...smallSession(), takes });

/** Files that are left in each take, and code, severity, filter and takes of each fault. */
async function sorted(contents: Record<string, string>, ...takes: Take[]) {
  const { session: left, faults } = await withoutSameFiles(session(...takes), source(contents));
  return {
    left: left.takes.map(({ id, files }) => [id, ...files].join(' ')),
    faults: faults.map(({ filter, fault }) => [String(filter), fault.severity, ...fault.takes].join(' ')),
  };
}

test('where no two are the same the session stays the very same', async () => {
  const own = session(take('bare', null, ['a', 'b']), take('nd8', 'nd8', ['c']));
  const found = await withoutSameFiles(own, source({ a: '1', b: '2', c: '3' }));
  expect(found.session).toBe(own);
  expect(found.faults).toEqual([]);
});

test('a copy among the repeats of a take is counted once', async () =>
  expect(await sorted({ a: '1', b: '1', c: '2' }, take('bare', null, ['a', 'b', 'c']))).toEqual({
    left: ['bare a c'],
    faults: ['null warning bare'],
  }));

test('of two bare takes of one picture the first stays: the light at the other moment isn’t known by it', async () =>
  expect(await sorted({ a: '1', b: '1' }, take('bare-1', null, ['a']), take('bare-2', null, ['b']))).toEqual({
    left: ['bare-1 a'],
    faults: ['null warning bare-2'],
  }));

test('one picture under two filters is believed of neither; the others stay', async () =>
  expect(
    await sorted({ a: '1', b: '1', c: '2', d: '3' }, take('bare', null, ['a', 'd']), take('nd8', 'nd8', ['b', 'c'])),
  ).toEqual({ left: ['bare d', 'nd8 c'], faults: ['null error bare nd8', 'nd8 error bare nd8'] }));

test.each([
  ['another exposure', { exposure: { shutter: '1/200' } }],
  ['another aperture', { exposure: { shutter: '1/100', fNumber: 4 } }],
  ['another ring angle', { setting: { ringDegrees: 30 } }],
])('nor one that has %s the second time', async (_, more) =>
  expect(await sorted({}, take('one', 'nd8', ['a']), take('two', 'nd8', ['a'], more))).toEqual({
    left: [],
    faults: ['nd8 error one two'],
  }),
);

test('one exposure may be written in two ways', async () =>
  expect(
    await sorted({}, take('one', 'nd8', ['a']), take('two', 'nd8', ['a', 'b'], { exposure: { shutter: 0.01 } })),
  ).toEqual({ left: ['one a', 'two b'], faults: ['nd8 warning two'] }));

test('a picture may serve two scenes, and a bracket besides', async () =>
  expect(
    await sorted(
      { a: '1', b: '1' },
      take('chart', null, ['a']),
      take('wall', null, ['b'], { scene: 'wall' }),
      take('step', null, ['a'], { role: 'bracket', exposure: { shutter: '1/50' } }),
    ),
  ).toEqual({ left: ['chart a', 'wall b', 'step a'], faults: [] }));

test('parts of a clip are different pictures unless they have something in common', async () => {
  const part = (id: string, filter: string | null, from: number, to: number) =>
    take(id, filter, ['a.mp4'], { span: { from, to } });
  expect(await sorted({}, part('bare', null, 0, 2), part('nd8', 'nd8', 2, 4))).toEqual({
    left: ['bare a.mp4', 'nd8 a.mp4'],
    faults: [],
  });
  expect((await sorted({}, part('bare', null, 0, 2.5), part('nd8', 'nd8', 2, 4))).left).toEqual([]);
});

/** 400 × 300 codes of three channels. */
function picture(code: (x: number, y: number) => number, facts: object = {}): OpenPicture {
  const windows = (rects: readonly WindowRect[]) =>
    Promise.resolve(
      rects.map(({ x, y, width, height }): Picture => {
        const data = new Uint16Array(3 * width * height);
        for (let v = 0; v < height; v++)
          for (let u = 0; u < width; u++) data.fill(code(x + u, y + v), 3 * (v * width + u), 3 * (v * width + u) + 3);
        return { width, height, channels: 3, bitDepth: 16, data };
      }),
    );
  const all = { width: 400, height: 300, capturedAt: null, exposure: {}, ...facts };
  return { facts: all, preview: null, windows, close: () => undefined } as unknown as OpenPicture;
}

describe('whether a camera took it', () => {
  const grain = seededNormals(3);
  const takes = [take('bare', null, ['a', 'b']), take('nd8', 'nd8', ['c'])];
  test.each([
    ['a flat field, computed', picture(() => 128), false],
    ['an even fall of light, computed', picture((x, y) => Math.round(9000 - 0.02 * ((x - 200) ** 2 + (y - 150) ** 2))), false], // prettier-ignore
    ['the same in few codes', picture((x, y) => Math.round(120 - 0.0003 * ((x - 200) ** 2 + (y - 150) ** 2))), false],
    ['noise of many codes', picture(() => Math.round(9000 + 60 * grain())), true],
    ['noise of a third of a code', picture(() => Math.round(120.4 + 0.33 * grain())), true],
    ['a flat field that tells its shutter', picture(() => 128, { exposure: { shutterSeconds: 0.01 } }), true],
    ['one that tells its time', picture(() => 128, { capturedAt: '2026-05-14T09:00:00Z' }), true],
    ['a raw file', picture(() => 128, { raw: true }), true],
  ])('%s', async (_, one, isTaken) => {
    const own = { ...source({ a: '1', b: '1', c: '1' }), open: () => Promise.resolve(one) };
    const found = await withoutSameFiles(session(...takes), own);
    expect(found.session.takes.flatMap(({ files }) => files)).toHaveLength(isTaken ? 0 : 3);
    expect(found.faults.map(({ fault }) => fault.severity)).toEqual(Array(2).fill(isTaken ? 'error' : 'warning'));
  });

  test('nor is one left out that can’t be opened: that is told where it is read', async () => {
    const broken = { ...source({ a: '1', b: '1' }), open: () => Promise.reject(new Error('cut short')) };
    expect((await withoutSameFiles(session(take('bare', null, ['a', 'b'])), broken)).session.takes[0].files).toHaveLength(2); // prettier-ignore
  });
});

test('a source that compares nothing tells one path twice all the same', async () => {
  const { contentsOf: _, ...plain } = source({});
  const found = await withoutSameFiles(session(take('bare', null, ['a', 'a'])), plain);
  expect(found.session.takes[0].files).toEqual(['a']);
  expect(found.faults[0].fault.message).toBe('a is there twice: it is counted once, for a copy tells nothing new.');
});
