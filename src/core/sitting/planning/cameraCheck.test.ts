/** A check's pictures: what is shot, what is missing, and how two checks are compared. */
import type { CameraCheck } from '../../session/cameraCheck';
import { parseSession } from '../../session/parse';
import type { ArrivedFile } from '../intake/arrived';
import {
  changeSince,
  checkedProfileOf,
  checkExposures,
  missingInCheck,
  sessionOfCheck,
  type CheckPicture,
  type CheckScene,
} from './cameraCheck';

function picture(name: string, scene: CheckScene, shutterSeconds?: number, model?: string): CheckPicture {
  const stored = {
    sha256: name,
    bytes: 1,
    facts: {
      readable: true,
      picture: {
        exposure: shutterSeconds === undefined ? {} : { shutterSeconds, iso: 100, fNumber: 4 },
        encoding: { settings: model === undefined ? {} : { model } },
        capturedAt: '2026-05-14T09:00:00Z',
      },
    },
  };
  return { scene, file: { path: `${name}.jpg`, stored } as unknown as ArrivedFile };
}

const surface = [0, 1, 2, 3].map((stops) => picture(`s${stops}`, 'surface', 2 ** -stops / 30));
const edges = [0, 1].map((stops) => picture(`e${stops}`, 'edge', 2 ** -stops / 30));

test('twenty-two pictures: nine shutters a stop apart, back between them to the first, then four of the edge', () => {
  const list = checkExposures(1 / 8);
  expect(list.map(({ scene }) => scene)).toEqual([...Array<string>(18).fill('surface'), ...Array<string>(4).fill('edge')]); // prettier-ignore
  // As cameras engrave them.
  expect(list.slice(0, 9).map(({ seconds }) => Math.round(1 / seconds))).toEqual([8, 15, 30, 60, 125, 250, 500, 1000, 2000]); // prettier-ignore
  expect(list.slice(9, 18).map(({ seconds }) => Math.round(1 / seconds))).toEqual([1600, 800, 400, 200, 100, 50, 25, 13, 8]); // prettier-ignore
});

test('what is missing is said: pictures, exposures, a span, one camera', () => {
  expect(missingInCheck([...surface, ...edges])).toEqual([]);
  expect(missingInCheck([...surface, edges[0]])).toEqual([expect.stringContaining('at two exposures or more')]);
  expect(missingInCheck([...surface.slice(1), ...edges])).toEqual([expect.stringContaining('4 at least')]);
  expect(missingInCheck([...surface, ...edges, picture('mute', 'edge')])).toEqual([expect.stringContaining('mute.jpg: the file tells no shutter')]); // prettier-ignore
  const alike = [0, 1, 2, 3].map((i) => picture(`a${i}`, 'surface', 1 / 30 / 1.5 ** (i % 2)));
  expect(missingInCheck([...alike, ...edges])).toEqual([expect.stringContaining('within two stops')]);
  const mixed = surface.map((one, i) => picture(`m${i}`, 'surface', 2 ** -i / 30, i === 0 ? 'A' : 'B'));
  expect(missingInCheck([...mixed, ...edges])).toEqual(['These pictures are of several cameras: A, B.']);
  const broken = { scene: 'surface', file: { path: 'x.txt', stored: { facts: { readable: false, reason: '' } } } };
  expect(missingInCheck([...surface, ...edges, broken as unknown as CheckPicture])).toEqual([expect.stringContaining('x.txt can’t be read')]); // prettier-ignore
});

test('its session is one: bare takes alone, whole frames, scenes that were shot', () => {
  const session = parseSession(sessionOfCheck(surface, 'Check', { id: 'R', camera: 'Camera' }, 1));
  expect(session.kits).toEqual([]);
  // It knows whose it is after a round trip.
  expect(checkedProfileOf(session)).toEqual({ rig: 'R', profile: 1 });
  expect(checkedProfileOf({})).toBeNull();
  expect(session.takes.map(({ filter, role }) => [filter, role])).toEqual(surface.map(() => [null, 'bracket']));
  expect(session.scenes.map(({ kind }) => kind)).toEqual(['flat']);
  expect(session.patches[0]).toMatchObject({ role: 'field', rect: { x: 0, y: 0, width: 1, height: 1 } });
});

const curveOf = (slope: number, offset = 0) =>
  Array.from({ length: 9 }, (_, i) => {
    const code = (i + 1) / 10;
    const light = slope * Math.log2(code) + offset;
    return { code, light: [light, light, light] as [number, number, number], u95: 0.01 };
  });
const noise = [20, 230].map((code) => ({ code, stops: 0, spread: 1 }));
const check = (slope: number, offset = 0) => ({ curve: curveOf(slope, offset), noise }) as unknown as CameraCheck;

test('two checks are compared by their curves’ shape; how bright full scale is doesn’t count', () => {
  expect(changeSince(check(2), check(2, 0.4))!.stops).toBeCloseTo(0, 9);
  // Slopes of 2 and 2.2 over the codes 0.1…0.9, from the middle one: 0.2·log2(5) at the dark end.
  expect(changeSince(check(2), check(2.2))!.stops).toBeCloseTo(0.2 * Math.log2(5), 6);
  expect(changeSince(check(2), { ...check(2), noise: [] })).toBeNull();
});
