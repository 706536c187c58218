import fc from 'fast-check';
import { parseSession, parseSessionText, patchesOfScene, SessionError } from './parse';
import { readingsSchema } from './readings';
import { sessionSchema } from './schema';

const MINIMAL = {
  format: 'aurora-glade-session',
  version: 1,
  title: 'Quarry bench, first sitting',
  rig: { camera: 'Bench rig', aperture: 'fixed', response: { kind: 'srgb' } },
  kits: [{ id: 'harbour', filters: [{ id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [
    {
      id: 'bare-1',
      filter: null,
      scene: 'chart',
      files: ['a.tif'],
      exposure: { shutter: '1/2000', iso: 100, fNumber: 2.8 },
    },
    {
      id: 'nd8-1',
      filter: 'nd8',
      scene: 'chart',
      files: ['b.tif'],
      exposure: { shutter: 0.004, iso: 100, fNumber: 2.8 },
    },
  ],
  patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.44, y: 0.4, width: 0.12, height: 0.2 } }],
};

/** The problems of a session with one thing changed. */
function problems(change: (session: typeof MINIMAL) => void): string[] {
  const copy = structuredClone(MINIMAL);
  change(copy);
  try {
    parseSession(copy);
    return [];
  } catch (error) {
    return (error as SessionError).problems;
  }
}

describe('session file', () => {
  test('defaults are filled in', () => {
    const session = parseSession({ ...MINIMAL, rig: undefined, patches: undefined });
    expect(session.rig).toMatchObject({ response: { kind: 'file' }, colorSpace: 'srgb' });
    expect(session.rig.shutterMarks).toBeUndefined();
    expect(session.patches).toEqual([]);
    expect(session.takes[0].role).toBe('measure');
  });

  test('unknown keys are kept', () => {
    const session = parseSession({ ...MINIMAL, plan: { order: 'mirrored' }, rig: { ...MINIMAL.rig, strap: 'red' } });
    expect(session).toMatchObject({ plan: { order: 'mirrored' }, rig: { strap: 'red' } });
  });

  test('"kit" is read as a list of one, without an id it is "kit"', () => {
    const { kits, ...rest } = MINIMAL;
    expect(parseSession({ ...rest, kit: { filters: kits[0].filters } }).kits[0].id).toBe('kit');
  });

  test('a wrong key is named by its path', () => {
    expect(problems((session) => (session.takes[1].exposure.shutter = 'fast' as never))).toEqual([
      'takes[1].exposure.shutter: expected "1/2000" or seconds, got "fast"',
    ]);
    expect(problems((session) => delete (session.takes[0] as Partial<(typeof MINIMAL.takes)[0]>).files)).toEqual([
      'takes[0].files: missing; expected a list of file paths',
    ]);
    expect(problems((session) => (session.patches[0].rect.x = 1.2))).toEqual([
      'patches[0].rect.x: expected a fraction (0–1), got 1.2',
    ]);
    expect(problems((session) => (session.format = 'something'))).toEqual([
      'format: expected "aurora-glade-session", got "something"',
    ]);
    expect(problems((session) => (session.version = 2))).toEqual([
      'version: expected 1 (newer files need a newer Aurora Glade), got 2',
    ]);
  });

  test('references and ids are checked', () => {
    expect(problems((session) => (session.takes[1].filter = 'nd9'))).toEqual([
      'takes[1].filter: expected a filter of the kits or null, got "nd9"',
    ]);
    expect(problems((session) => (session.takes[1].scene = 'wall'))).toEqual([
      'takes[1].scene: expected one of the scenes, got "wall"',
    ]);
    expect(problems((session) => (session.takes[1].id = 'bare-1'))).toEqual([
      'takes[1].id: "bare-1" is used twice; ids are unique in their list',
    ]);
  });

  test.each(['../a.tif', '/etc/passwd', 'C:\\a.tif', 'x/../../a.tif'])(
    'a file may not leave the folder: %s',
    (path) => {
      expect(problems((session) => (session.takes[0].files = [path]))[0]).toContain(
        'takes[0].files[0]: expected a path inside',
      );
    },
  );

  test('text that is no JSON gets one sentence', () => {
    expect(() => parseSessionText('{ "format": ')).toThrow(/session: this isn’t JSON/);
    expect(parseSessionText(`\uFEFF${JSON.stringify(MINIMAL)}`).title).toBe(MINIMAL.title);
  });

  test('anything else is refused with problems, never a crash', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        try {
          parseSession(value);
        } catch (error) {
          expect(error).toBeInstanceOf(SessionError);
          expect((error as SessionError).problems.length).toBeGreaterThan(0);
        }
      }),
    );
  });

  test('reading what was read gives the same again', () => {
    const once = parseSession(MINIMAL);
    expect(parseSession(JSON.parse(JSON.stringify(once)))).toEqual(once);
  });

  test('an outdoor scene without patches has one frame', () => {
    const session = parseSession({ ...MINIMAL, scenes: [...MINIMAL.scenes, { id: 'weir', kind: 'outdoor' }] });
    expect(patchesOfScene(session, 'weir')).toMatchObject([
      { role: 'frame', rect: { x: 0, y: 0, width: 1, height: 1 } },
    ]);
    expect(patchesOfScene(session, 'chart')).toHaveLength(1);
  });
});

test('both schemas can be printed as JSON Schema', async () => {
  const { z } = await import('zod');
  expect(z.toJSONSchema(sessionSchema, { io: 'input', unrepresentable: 'any' })).toMatchObject({ type: 'object' });
  expect(z.toJSONSchema(readingsSchema)).toMatchObject({ type: 'object' });
});
