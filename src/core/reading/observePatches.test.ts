/** What is read of a session, what was seen of it, and what files say that isn't so. */
import type { TableCache } from '../light/decoding';
import type { PatchStatistics } from './patchStatistics';
import { parseSession } from '../session/parse';
import type { Session } from '../session/schema';
import type { PictureFacts } from './facts';
import { fileFaults, observePatches } from './observePatches';
import { planReading } from './readingPlan';
import type { ReadShot } from './readShots';

const RECT = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
interface Take {
  id: string;
  filter?: string | null;
  scene?: string;
  [key: string]: unknown;
}
function sessionOf(takes: Take[], change: Record<string, unknown> = {}): Session {
  return parseSession({
    format: 'aurora-glade-session',
    version: 1,
    title: 'Bench',
    rig: { aperture: 'fixed' },
    kits: [
      {
        id: 'kit',
        filters: [
          { id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } },
          { id: 'vnd', kind: 'variable-nd', nominal: { stopsRange: [2, 5] } },
        ],
      },
    ],
    scenes: [
      { id: 'chart', kind: 'chart' },
      { id: 'lamp', kind: 'flare' },
      { id: 'walk', kind: 'outdoor' },
    ],
    takes: takes.map((take) => ({
      filter: null,
      scene: 'chart',
      files: [`${take.id}.tif`],
      exposure: { shutter: '1/8', iso: 100 },
      capturedAt: '2026-05-14T09:00:00Z',
      ...take,
    })),
    patches: [
      { id: 'gray', scene: 'chart', role: 'neutral', rect: RECT },
      { id: 'trap', scene: 'lamp', role: 'black', rect: RECT },
    ],
    ...change,
  });
}

describe('the plan', () => {
  const ids = (session: Session, filter?: string) => planReading(session, filter).takes.map(({ id }) => id);
  const all = [
    { id: 'bare' },
    { id: 'run', filter: 'nd8' },
    { id: 'step', role: 'bracket' },
    { id: 'swept', role: 'sweep' },
  ];

  test('reads takes of scenes with patches; bare takes of a sweep are none', () =>
    expect(ids(sessionOf(all))).toEqual(['bare', 'run', 'step']));
  test('leaves bracket takes to the response where one is recovered', () =>
    expect(ids(sessionOf(all, { rig: { response: { kind: 'bracket' } } }))).toEqual(['bare', 'run']));
  test('reads bare and one filter where one is asked for', () => {
    const session = sessionOf([...all, { id: 'other', filter: 'vnd' }]);
    expect(ids(session, 'nd8')).toEqual(['bare', 'run', 'step']);
  });
  test('looks at the middle of a gray card where a variable filter was shot', () => {
    const roles = (takes: Take[]) =>
      planReading(sessionOf(takes))
        .patchesOf.get('chart')!
        .map(({ role }) => role);
    expect(roles([{ id: 'bare' }])).toEqual(['neutral']);
    expect(roles([{ id: 'bare' }, { id: 'v', filter: 'vnd' }])).toEqual(['neutral', 'middle']);
  });
  test('looks at a flare scene whole', () =>
    expect(
      planReading(sessionOf(all))
        .patchesOf.get('lamp')!
        .map(({ id, role }) => [id, role]),
    ).toEqual([
      ['trap', 'black'],
      ['lamp-whole', 'field'],
    ]));
  test('leaves whole frames of ordinary scenes to laying', () => {
    const session = sessionOf([
      { id: 'w', scene: 'walk' },
      { id: 'f', scene: 'walk', filter: 'nd8' },
    ]);
    expect(planReading(session).patchesOf.get('walk')).toEqual([]);
    const turned = sessionOf([
      { id: 'w', scene: 'walk' },
      { id: 'v', scene: 'walk', filter: 'vnd' },
    ]);
    expect(
      planReading(turned)
        .patchesOf.get('walk')!
        .map(({ role }) => role),
    ).toEqual(['frame']);
  });
});

const LEVEL = { mean: [0.4, 0.4, 0.4] } as unknown as PatchStatistics;
const ENCODING: PictureFacts['encoding'] = { transfer: null, source: null, toXyz: null, profile: null };
type Change = Partial<Omit<ReadShot, 'facts'>> & { facts?: Partial<PictureFacts> };
function readOf(session: Session, change: (id: string) => Change = () => ({})): ReadShot[] {
  return session.takes.map((take): ReadShot => {
    const { facts, ...rest } = change(take.id);
    return {
      take,
      file: take.files[0],
      original: take.files[0],
      seconds: null,
      cues: [],
      view: { kind: 'same' },
      reduced: new Map([['gray', { level: LEVEL }]]),
      places: new Map(),
      ...rest,
      facts: { width: 300, height: 200, channels: 3, bitDepth: 16, encoding: ENCODING, exposure: {}, capturedAt: null, whiteBalance: null, ...facts } as PictureFacts,
    };
  }); // prettier-ignore
}
const observed = (session: Session, read = readOf(session)) => observePatches(read, planReading(session), session);

describe('what was seen', () => {
  const takes = [{ id: 'bare' }, { id: 'run', filter: 'nd8', exposure: { shutter: '1', iso: 200 } }];

  test('levels with exposures in log2 of t·ISO, bracket apart', () => {
    const [gray] = observed(sessionOf([...takes, { id: 'step', role: 'bracket' }])).patches;
    expect(gray.samples.map(({ take, exposureLog2 }) => [take, exposureLog2])).toEqual([
      ['bare', expect.closeTo(Math.log2(100 / 8), 9)],
      ['run', expect.closeTo(Math.log2(200), 9)],
    ]);
    expect(gray.bracket.map(({ take }) => take)).toEqual(['step']);
  });

  test('an exposure that nobody knows is a fault of its take', () => {
    const session = sessionOf([{ id: 'bare' }, { id: 'run', filter: 'nd8', exposure: { iso: 100 } }]);
    const { patches, faults } = observed(session);
    expect(patches[0].samples.map(({ take }) => take)).toEqual(['bare']);
    expect(faults).toEqual([
      expect.objectContaining({ filter: 'nd8', fault: expect.objectContaining({ code: 'exposure-missing' }) }),
    ]);
    expect(faults[0].fault.message).toBe('run: shutter is neither in the session nor in the file.');
  });

  test.each([
    ['of another size', { facts: { width: 310 } }, 'size-differs', /310 × 200 pixels, the bare picture 300 × 200/],
    ['of another view', { view: { kind: 'other', words: 'it moved' } as const }, 'view-moved', /run\.tif: it moved; it is left out\./],
    ['that can’t be laid', { view: { kind: 'lost', words: 'it is blank' } as const }, 'registration-failed', /it is blank; it is left out/],
  ])('a picture %s is left out', (_, change, code, words) => {
    const session = sessionOf(takes);
    const { patches, faults } = observed(session, readOf(session, (id) => (id === 'run' ? change : {})));
    expect(patches[0].samples.map(({ take }) => take)).toEqual(['bare']);
    expect(faults[0]).toMatchObject({ filter: 'nd8', fault: { code, severity: 'error', takes: ['run'] } });
    expect(faults[0].fault.message).toMatch(words);
  }); // prettier-ignore

  test('settings tell takes of one filter apart', () => {
    const session = sessionOf([
      { id: 'bare' },
      { id: 'v1', filter: 'vnd', setting: { mark: 1 } },
      { id: 'v2', filter: 'vnd', setting: { mark: 2, ringDegrees: 30 } },
    ]);
    expect(observed(session).patches[0].samples.map(({ setting, inSeries }) => [setting, inSeries])).toEqual([
      ['', undefined],
      ['ring ? mark 1', true],
      ['ring 30 mark 2', true],
    ]);
  });
});

describe('what files say', () => {
  const session = sessionOf([{ id: 'bare' }, { id: 'run', filter: 'nd8' }]);
  const tables = (change: Partial<TableCache> = {}) =>
    ({ responseOf: () => ({ known: true }), conversion: () => null, ...change }) as unknown as TableCache;
  const codes = (faults: ReturnType<typeof fileFaults>) => faults.map(({ filter, fault }) => [filter, fault.code]);

  test('a response that had to be assumed, primaries that were converted', () => {
    const unknown = tables({ responseOf: () => ({ known: false }) as never });
    expect(codes(fileFaults(readOf(session), unknown, session))).toEqual([[null, 'response-unknown']]);
    const converted = tables({ conversion: () => [1, 0, 0, 0, 1, 0, 0, 0, 1] as never });
    expect(codes(fileFaults(readOf(session), converted, session))).toEqual([[null, 'color-space-differs']]);
  });

  test('an exposure that contradicts the session’s by more than marks may', () => {
    const told = (shutterSeconds: number) =>
      fileFaults(
        readOf(session, (id) => (id === 'run' ? { facts: { exposure: { shutterSeconds } } } : {})),
        tables(),
        session,
      );
    expect(codes(told(1 / 4))).toEqual([['nd8', 'exposure-moved']]);
    expect(told(1 / 4)[0].fault.message).toContain('contradict the session’s shutter, by 1.0 stop in all');
    expect(told(1 / 8.5)).toEqual([]);
  });
});
