/** What browsers ask of the server: read before anything is done, answered in sentences. */
import { log } from '@/log/log';
import { renewed } from '@/ui/testing/cache';
import type { Patch } from '@/core/session/schema';
import { smallSession } from '@/ui/testing/sessions';
import { AskedError, attempt, idSchema, taken } from './asked';
import { keepRoundAction, comparedAction } from './compareActions';
import { bringBackAction, editSessionAction, undoAction } from './editActions';
import { keepBoundsAction, keepWeightsAction } from './judgeActions';
import { editOpticsAction, placePatchAction, placePatchesAction } from './patchActions';
import { freezeAction, keepReportAction, newReportAction, putReportAwayAction } from './reportActions';
import { cancelAction, measureAction, putAwayAction } from './sessionActions';
import { putBenchAwayAction, takeInBenchAction } from './benchActions';
import { importKitsAction, keepKitAction, kitAction, putAwayFromShelfAction } from './shelfActions';
import { addFilesAction, editTakesAction, layAction, moveFileAction, noteRingAction } from './takeActions';

type Json = Record<string, unknown>;
let mockDocument: Json;
let mockFiles: Map<string, string>;
/** Documents as edits left them, the first as it was before any. */
let mockRevisions: Json[];
const mockWho = { role: 'owner' };
const mockCalls: [what: string, ...words: unknown[]][] = [];
/** Notes what the store was asked; a declaration, since mocks are made before anything else. */
function mockNote(what: string, answer?: unknown) {
  return (...words: unknown[]) => {
    mockCalls.push([what, ...words]);
    return Promise.resolve(typeof answer === 'function' ? (answer as (...w: unknown[]) => unknown)(...words) : answer);
  };
}

jest.mock('@/store', () => {
  class NoSuchSession extends Error {
    constructor(id: string) {
      super(`There is no session ${id}.`);
    }
  }
  class ShelfError extends Error {}
  const isAway = (error: unknown) => error instanceof Error && error.name === 'SequelizeConnectionRefusedError';
  return {
    NoSuchSession,
    isFull: (error: { code?: string }) => error.code === 'ENOSPC',
    isReadersOnly: () => false,
    ShelfError,
    isAway,
    who: () => mockWho,
    editSession: async (
      id: string,
      change: (document: Json, revisions: object) => Json | Promise<Json>,
      files?: Map<string, string>,
    ) => {
      if (id === 'gone') throw new NoSuchSession(id);
      if (id === 'broken') throw new Error('ECONNREFUSED 127.0.0.1:3306');
      const documentAt = async (number: number) => mockRevisions[number - 1] ?? null;
      mockDocument = await change(structuredClone(mockDocument), { documentAt });
      mockFiles = new Map([...mockFiles, ...(files ?? [])]);
      return mockRevisions.push(structuredClone(mockDocument));
    },
    withTapsOf: (document: Json) => document,
    loadSession: async (id: string) => {
      if (id === 'gone') throw new NoSuchSession(id);
      return { id, session: { ...mockDocument, title: `Bench ${id}` }, files: mockFiles };
    },
    clearInbox: mockNote('clear'),
    deleteSession: mockNote('delete'),
    restoreSession: mockNote('restore'),
    writeSetting: mockNote('setting'),
    writeKit: mockNote('kit', (kit: { name?: string }) => {
      if (!kit?.name) throw new ShelfError('name: missing; expected a text.');
      return { id: 'k', revision: 4 };
    }),
    writeRig: mockNote('rig', { id: 'r', revision: 1 }),
    writeBench: mockNote('bench', { id: 'b', revision: 1 }),
    putBenchAway: mockNote('bench away'),
    readKit: mockNote('read kit', { item: { name: 'Foundry Set' } }),
    readRig: mockNote('read rig', null),
    putKitAway: mockNote('kit away'),
    putRigAway: mockNote('rig away'),
    listSessions: mockNote('list', []),
    writeReport: mockNote('report', { id: 'p', revision: 2 }),
    readReport: mockNote('read report', null),
    freezeReport: mockNote('freeze', { number: 1 }),
    putReportAway: mockNote('report away'),
  };
});
jest.mock('@/jobs/queue', () => ({ requestMeasure: mockNote('measure'), requestCancel: mockNote('cancel') }));
jest.mock('./footage', () => ({ layOnSession: mockNote('lay', { laid: [], files: [], clockOffsetSeconds: null }) }));
jest.mock('./reportFigures', () => ({ reportFigures: async () => ({ sessions: [] }) }));
jest.mock('./compare', () => ({ comparedSession: mockNote('compare', { id: 'x' }) }));

const takes = () => mockDocument.takes as Json[];
const patches = () => mockDocument.patches as Json[];
let logged: jest.SpyInstance;
beforeEach(() => {
  mockDocument = structuredClone(smallSession()) as unknown as Json;
  mockRevisions = [structuredClone(mockDocument)];
  mockFiles = new Map();
  mockCalls.length = 0;
  renewed.length = 0;
  logged = jest.spyOn(log, 'error').mockImplementation(() => undefined);
});
afterEach(() => logged.mockRestore());

describe('what is asked', () => {
  test('is read by its schema; the first problem is told with where it lies', () => {
    expect(taken(idSchema, 'abc')).toBe('abc');
    expect(() => taken(idSchema, 7)).toThrow(AskedError);
    expect(() => taken(idSchema, '')).toThrow(/^This can’t be read: .*\.$/);
  });

  test('errors for people are answered, others go to the log', async () => {
    expect(await attempt(async () => ({ id: 'x' }))).toEqual({ ok: true, id: 'x' });
    expect(await attempt(async () => undefined)).toEqual({ ok: true });
    const refused = await attempt(async () => {
      throw new AskedError('Choose a session.');
    });
    expect(refused).toEqual({ ok: false, error: 'Choose a session.' });
    expect(logged).not.toHaveBeenCalled();
    const full = await attempt(async () => {
      throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' });
    });
    expect(full).toEqual({ ok: false, error: expect.stringContaining('The disk is full') });
    const broken = await attempt(async () => {
      throw new Error('ECONNREFUSED 127.0.0.1:3306');
    });
    expect(broken).toEqual({ ok: false, error: expect.stringContaining('Nothing was changed') });
    expect(JSON.stringify(broken)).not.toContain('ECONNREFUSED');
    expect(logged).toHaveBeenCalledTimes(1);
  });
});

/** Every action, asked for nonsense: a sentence, nothing done, nothing in the log. */
describe.each<[string, (nonsense: never) => Promise<{ ok: boolean; error?: string }>]>([
  ['measure', (x) => measureAction(x)],
  ['cancel', (x) => cancelAction(x)],
  ['put away', (x) => putAwayAction(x, true)],
  ['put away, how', (x) => putAwayAction('s', x)],
  ['place a patch', (x) => placePatchAction('s', x, 'gray', null, [])],
  ['place a patch, where', (x) => placePatchAction('s', 'chart', 'gray', x, [])],
  ['place patches', (x) => placePatchesAction('s', x)],
  ['optics', (x) => editOpticsAction('s', x, {}, {})],
  ['edit takes', (x) => editTakesAction('s', x)],
  ['ring', (x) => noteRingAction('s', x, 30)],
  ['move', (x) => moveFileAction('s', 'a.png', x)],
  ['move, which', (x) => moveFileAction('s', x, { take: null, filter: null, scene: 'chart' })],
  ['add', (x) => addFilesAction('s', x)],
  ['undo', (x) => undoAction('s', x)],
  ['bring back', (x) => bringBackAction('s', x)],
  ['edit the session', (x) => editSessionAction('s', [{ at: [x], seen: [], to: 1 }])],
  ['lay', (x) => layAction('s', x)],
  ['shelf', (x) => putAwayFromShelfAction('kit', x, true)],
  ['shelf, what', (x) => putAwayFromShelfAction(x, 'k', true)],
  ['kit’s place', (x) => keepKitAction({ name: 'Set' }, x)],
  ['bounds', (x) => keepBoundsAction(x)],
  ['weights', (x) => keepWeightsAction(x)],
  ['report’s place', (x) => keepReportAction({} as never, x)],
  ['new report', (x) => newReportAction(x)],
  ['freeze', (x) => freezeAction(x)],
  ['report away', (x) => putReportAwayAction(x, true)],
  ['round', (x) => keepRoundAction('s', x)],
])('%s', (_, act) => {
  test.each([[{ a: 1 }], [['']], [-1.5]])('of %j', async (nonsense) => {
    const before = structuredClone(mockDocument);
    const answer = await act(nonsense as never);
    expect(answer).toEqual({ ok: false, error: expect.stringMatching(/^This can’t be read: .+\.$/) });
    expect(mockDocument).toEqual(before);
    expect(logged).not.toHaveBeenCalled();
  });
});

describe('sessions', () => {
  test('measured, cancelled, put away and brought back', async () => {
    expect(await measureAction('s')).toEqual({ ok: true });
    expect(await cancelAction(7)).toEqual({ ok: true });
    await putAwayAction('s', true);
    await putAwayAction('s', false);
    expect(mockCalls).toEqual([
      ['measure', 's'],
      ['cancel', 7],
      ['delete', 's'],
      ['restore', 's'],
    ]);
  });

  test('one that is gone says so; a server in trouble tells nothing of itself', async () => {
    expect(await placePatchesAction('gone', [])).toEqual({ ok: false, error: 'There is no session gone.' });
    const answer = await placePatchesAction('broken', []);
    expect(answer).toMatchObject({ ok: false });
    expect(JSON.stringify(answer)).not.toMatch(/ECONN|127/);
  });
});

describe('patches', () => {
  const rect = { x: 0.1, y: 0.2, width: 0.3, height: 0.4 };

  const gray = () => {
    const { rect: at, role } = patches().find((one) => one.id === 'gray') as unknown as Patch;
    return { rect: at, role };
  };

  test('placed anew, made, removed', async () => {
    const before = gray();
    await placePatchAction('s', 'chart', 'gray', { rect, role: 'color' }, [before]);
    expect(patches()).toEqual([expect.objectContaining({ id: 'gray', role: 'color', rect })]);
    await placePatchAction('s', 'chart', 'edge', { rect, role: 'edge' }, [null]);
    expect(patches().map((one) => one.id)).toEqual(['gray', 'edge']);
    await placePatchAction('s', 'chart', 'gray', null, [before, { rect, role: 'color' }]);
    expect(patches().map((one) => one.id)).toEqual(['edge']);
    expect(renewed).toContain('/sessions/s');
  });

  test('moved in another window meanwhile: it stays there, its role is taken, and both are told', async () => {
    const before = gray();
    await placePatchAction('s', 'chart', 'gray', { ...before, rect }, [before]);
    const mine = { rect: { ...rect, x: 0.6 }, role: 'color' as const };
    const answer = await placePatchAction('s', 'chart', 'gray', mine, [before]);
    expect(answer).toMatchObject({ ok: true, refused: [expect.stringContaining('The place of patch “gray”')] });
    expect(gray()).toEqual({ rect, role: 'color' });
  });

  test('an answer that got lost is no other window: the same and the next change are taken', async () => {
    const [a, b, c] = [
      gray(),
      { rect, role: 'neutral' as const },
      { rect: { ...rect, x: 0.5 }, role: 'neutral' as const },
    ];
    await placePatchAction('s', 'chart', 'gray', b, [a]);
    expect(await placePatchAction('s', 'chart', 'gray', b, [a])).toMatchObject({ ok: true, refused: [] });
    expect(await placePatchAction('s', 'chart', 'gray', c, [a, b])).toMatchObject({ ok: true, refused: [] });
    expect(gray().rect.x).toBe(0.5);
  });

  test('two windows draw one of the same name: both are kept', async () => {
    const drawn = (x: number) =>
      placePatchAction('s', 'chart', 'gray-2', { rect: { ...rect, x }, role: 'edge' }, [null]);
    expect(await drawn(0.1)).toMatchObject({ ok: true, id: 'gray-2' });
    expect(await drawn(0.5)).toMatchObject({ ok: true, id: 'gray-2-2' });
    expect(patches().map((one) => one.id)).toEqual(['gray', 'gray-2', 'gray-2-2']);
  });

  test('removed in another window, it isn’t made anew by moving it', async () => {
    const before = gray();
    await placePatchAction('s', 'chart', 'gray', null, [before]);
    const answer = await placePatchAction('s', 'chart', 'gray', { ...before, rect }, [before]);
    expect(answer).toMatchObject({ ok: true, stands: null, refused: [expect.stringContaining('is gone')] });
    expect(patches()).toEqual([]);
  });

  test('several at once: known ones move, others come', async () => {
    const several: Patch[] = [
      { id: 'gray', scene: 'chart', role: 'neutral', rect },
      { id: 'field', scene: 'chart', role: 'field', rect },
    ];
    await placePatchesAction('s', several);
    expect(patches().map((one) => one.id)).toEqual(['gray', 'field']);
    expect(patches()[0].rect).toEqual(rect);
  });

  test('a rectangle outside the picture is refused', async () => {
    const answer = await placePatchAction('s', 'chart', 'gray', { rect: { ...rect, x: 1.5 }, role: 'edge' }, []);
    expect(answer).toMatchObject({ ok: false, error: expect.stringContaining('rect: x') });
  });

  test('what is known of the light is kept, and forgotten with null', async () => {
    await editOpticsAction('s', 'chart', { surface: 'water', incidenceDegrees: 52 }, {});
    await editOpticsAction('s', 'chart', { surface: null }, { surface: ['water'] });
    expect((mockDocument.scenes as Json[])[0].optics).toEqual({ incidenceDegrees: 52 });
    const wrong = await editOpticsAction('s', 'chart', { incidenceDegrees: 400 }, {});
    expect(wrong).toMatchObject({ ok: false, error: expect.stringContaining('incidenceDegrees') });
  });
});

describe('takes', () => {
  test('what is typed replaces, what is emptied goes, the rest stays', async () => {
    const seen = { shutter: '1/500', iso: '100', ringDegrees: '', mark: '' };
    const to = { iso: '', shutter: '1/1000', ringDegrees: '30,5' };
    expect(await editTakesAction('s', [{ id: 'nd4', seen, to }])).toMatchObject({ ok: true, refused: [] });
    const take = takes().find((one) => one.id === 'nd4')!;
    expect(take.exposure).toEqual({ shutter: '1/1000', fNumber: 2.8 });
    expect(take.setting).toEqual({ ringDegrees: 30.5 });
    expect(takes()).toHaveLength(4);
  });

  test('what another window has changed stays, and is told', async () => {
    const edit = (to: string) => editTakesAction('s', [{ id: 'nd4', seen: { shutter: '1/500' }, to: { shutter: to } }]);
    await edit('1/60');
    expect(await edit('1/30')).toMatchObject({ ok: true, refused: [expect.stringContaining('is “1/60” now')] });
    expect(takes()[1].exposure).toMatchObject({ shutter: '1/60' });
  });

  test('a ring’s angle is noted beside what else is set', async () => {
    takes()[1].setting = { mark: 2 };
    await noteRingAction('s', 'nd4', 30);
    expect(takes()[1].setting).toEqual({ mark: 2, ringDegrees: 30 });
  });

  test('a file moves to a new take of that filter; an emptied one goes; the change can be taken back', async () => {
    const moved = await moveFileAction('s', 'nd8.png', { take: null, filter: 'nd4', scene: 'chart' });
    expect(takes().map((one) => one.id)).toEqual(['bare-1', 'nd4', 'bare-2', 'chart-nd4']);
    expect(takes().at(-1)).toMatchObject({ filter: 'nd4', files: ['nd8.png'], exposure: { shutter: '1/250' } });
    expect(moved).toMatchObject({ ok: true });
    const { revision } = moved as { revision: number };
    // What another window changed since stays.
    await editTakesAction('s', [{ id: 'nd4', seen: { iso: '100' }, to: { iso: '400' } }]);
    expect(await undoAction('s', revision)).toMatchObject({ ok: true });
    expect(takes()[1].exposure).toMatchObject({ iso: 400 });
    expect(takes().map((one) => one.id)).toEqual(['bare-1', 'nd4', 'nd8', 'bare-2']);
  });

  test('a file moves onto a take that is there; to where it lies already nothing happens', async () => {
    await moveFileAction('s', 'nd8.png', { take: 'nd4', filter: 'nd4', scene: 'chart' });
    expect(takes().find((one) => one.id === 'nd4')!.files).toEqual(['nd4.png', 'nd8.png']);
    const before = structuredClone(takes());
    await moveFileAction('s', 'nd4.png', { take: 'nd4', filter: 'nd4', scene: 'chart' });
    expect(takes()).toEqual(before);
  });

  test('added files lie together on one new take, under names of their own', async () => {
    mockFiles.set('a.png', '1'.repeat(64));
    const to = { take: null, filter: 'nd8', scene: 'chart' };
    const answer = await addFilesAction('s', [
      { path: 'a.png', sha256: '2'.repeat(64), to },
      { path: 'b.png', sha256: '3'.repeat(64), to },
    ]);
    expect(answer).toMatchObject({ ok: true });
    expect(takes().at(-1)).toMatchObject({ id: 'chart-nd8', files: ['a-2.png', 'b.png'] });
    expect(mockFiles.get('a-2.png')).toBe('2'.repeat(64));
    expect(mockCalls.find(([what]) => what === 'clear')![1]).toEqual(['2'.repeat(64), '3'.repeat(64)]);
  });

  test('a clip with its telemetry is a take by itself', async () => {
    const to = { take: null, filter: null, scene: 'chart' };
    const clip = (n: number) => ({ path: `c${n}.mp4`, sha256: `${n}`.repeat(64), to, telemetry: { path: `c${n}.srt`, sha256: `${n + 4}`.repeat(64) } }); // prettier-ignore
    await addFilesAction('s', [clip(1), clip(2)]);
    expect(takes().slice(-2).map((one) => [one.id, one.telemetry])).toEqual([
      ['chart-bare', 'c1.srt'],
      ['chart-bare-2', 'c2.srt'],
    ]); // prettier-ignore
  });

  test('into a session that is gone nothing is added', async () => {
    const answer = await addFilesAction('gone', []);
    expect(answer).toEqual({ ok: false, error: 'There is no session gone.' });
  });
});

describe('the session itself', () => {
  const title = (seen: string, to: string) => editSessionAction('s', [{ at: ['title'], seen: [seen], to }]);

  test('is named anew; a name that somebody else gave meanwhile stays', async () => {
    const old = String(mockDocument.title);
    expect(await title(old, 'Weir')).toMatchObject({ ok: true, refused: [] });
    expect(await title(old, 'Dam')).toMatchObject({ ok: true, refused: [expect.stringContaining('“Weir”')] });
    expect(mockDocument.title).toBe('Weir');
  });

  test('takes and patches aren’t changed by this way, nor is anything that no session has', async () => {
    for (const at of [['takes', 'nd4'], ['format'], ['__proto__', 'x']])
      expect(await editSessionAction('s', [{ at, seen: [undefined], to: 1 }])).toMatchObject({ ok: false });
  });

  test('a filter that has takes on it can’t be taken out', async () => {
    const [kit] = mockDocument.kits as { id: string; filters: Json[] }[];
    const at = ['kits', kit.id, 'filters', 'nd4'];
    const answer = await editSessionAction('s', [
      { at, seen: [kit.filters.find((one) => one.id === 'nd4')], to: undefined },
    ]);
    expect(answer).toEqual({ ok: false, error: '“nd4” has a take on it; lay it on another filter first (Footage).' });
  });

  test('an edit is taken back and done again; one that was changed since is not', async () => {
    const old = String(mockDocument.title);
    const { revision } = (await title(old, 'Weir')) as { revision: number };
    const undone = (await undoAction('s', revision)) as { revision: number };
    expect(mockDocument.title).toBe(old);
    await undoAction('s', undone.revision);
    expect(mockDocument.title).toBe('Weir');
    await title('Weir', 'Dam');
    expect(await undoAction('s', revision)).toMatchObject({
      ok: false,
      error: expect.stringContaining('can’t be taken back'),
    });
    expect(await undoAction('s', 99)).toMatchObject({ ok: false, error: expect.stringContaining('too long ago') });
  });

  test('is brought back to an earlier state', async () => {
    const old = structuredClone(mockDocument);
    await title(String(old.title), 'Weir');
    await noteRingAction('s', 'nd4', 30);
    await bringBackAction('s', 1);
    expect(mockDocument).toEqual(old);
    expect(await bringBackAction('s', 99)).toMatchObject({ ok: false });
  });
});

describe('other benches', () => {
  const asked = { name: 'Mill Lane', file: 'a.csv' };

  test('a table is taken in, whatever its cells are parted by; what a spreadsheet was kept from reading as a formula is as it was', async () => {
    expect(await takeInBenchAction({ ...asked, table: "filter;stops;stops_u95\n'-ND8;3,1;0,02\nND16;x;1\n" })).toEqual({
      ok: true,
      filters: 1,
      problems: ['Row 3, ND16: “x” in stops is no number.'],
    });
    const [what, kept] = mockCalls.at(-1)!;
    expect([what, kept]).toEqual([
      'bench',
      {
        ...asked,
        filters: [{ kit: '', filter: '-ND8', label: null, figures: { strength: { value: 3.1, u95: 0.02 } } }],
      },
    ]);
    await putBenchAwayAction('b', true);
    expect(mockCalls.at(-1)).toEqual(['bench away', 'b', true]);
  });

  test('figures that the browser read are looked at again', async () => {
    const filters = [{ kit: 'K', filter: 'a', label: 3, figures: { strength: { value: 3, u95: 0.1 } } }];
    expect(await takeInBenchAction({ ...asked, filters })).toMatchObject({ ok: true, filters: 1 });
    const negative = [{ ...filters[0], figures: { strength: { value: 3, u95: -1 } } }];
    expect(await takeInBenchAction({ ...asked, filters: negative })).toMatchObject({ ok: false });
    expect(await takeInBenchAction({ ...asked, filters: 'all' })).toMatchObject({ ok: false });
    expect(await takeInBenchAction(asked)).toMatchObject({ ok: false });
  });

  test.each([
    ['', 'The file is empty.'],
    ['name,stops\nND8,3', 'There is no column “filter”.'],
    ['filter,stops\nND8,3', 'Row 2, ND8: stops has no ± in stops_u95.'],
    ['filter,stops\n"ND8,3', /can’t be read as CSV/],
    ['filter,stops,stops_u95\n', /nothing to compare/],
  ])('what can’t be read is told: %j', async (table, words) => {
    const result = await takeInBenchAction({ ...asked, table });
    expect(result).toMatchObject({
      ok: false,
      error: typeof words === 'string' ? words : expect.stringMatching(words),
    });
    expect(mockCalls.filter(([what]) => what === 'bench')).toEqual([]);
  });
});

describe('the shelf', () => {
  test('a kit is kept; what it must be the shelf says', async () => {
    expect(await keepKitAction({ name: 'Set' })).toEqual({ ok: true, id: 'k', revision: 4 });
    expect(await keepKitAction({})).toEqual({ ok: false, error: 'name: missing; expected a text.' });
    expect(await kitAction('k')).toEqual({ name: 'Foundry Set' });
    await putAwayFromShelfAction('rig', 'r', true);
    expect(mockCalls.at(-1)).toEqual(['rig away', 'r', true]);
  });

  test.each([
    ['kit,filter,label\nSet,ND4,ND4\nSet,ND8,ND8', 1, 2],
    ['{"kits":[{"name":"One","filters":[]},{"name":"Two","filters":[{"id":"a"}]}]}', 2, 1],
    ['{"kit":{"name":"One","filters":[]}}', 1, 0],
    ['{"name":"One","filters":[]}', 1, 0],
  ])('files are taken in: %s', async (text, kits, filters) => {
    expect(await importKitsAction(text)).toMatchObject({ kits, filters });
  });

  test.each([
    ['{"kits": [', /looks like JSON/],
    ['{"title":"x"}', /no kits in this file/],
    [`${'x'.repeat(5_000_001)}`, /too large/],
    [7 as never, /no text/],
  ])('what can’t be read is told: %#', async (text, words) => {
    const { kits, problems } = await importKitsAction(text);
    expect(kits).toBe(0);
    expect(problems.join(' ')).toMatch(words);
  });

  test('of many problems the first are told', async () => {
    const many = { kits: Array.from({ length: 40 }, () => ({ filters: [] })) };
    const { problems } = await importKitsAction(JSON.stringify(many));
    expect(problems).toHaveLength(21);
    expect(problems.at(-1)).toBe('and 20 more.');
  });
});

describe('reports, rounds and settings', () => {
  test('a report of sessions is named by them', async () => {
    expect(await newReportAction(['a', 'b'])).toEqual({ ok: true, id: 'p', revision: 2 });
    expect(mockCalls.at(-1)).toEqual(['report', { title: 'Bench a and Bench b', sessions: ['a', 'b'] }]);
    expect(await newReportAction([])).toMatchObject({ ok: false, error: expect.stringContaining('Choose a session') });
  });

  test('one that is gone can’t be frozen', async () => {
    expect(await freezeAction('p')).toEqual({ ok: false, error: 'There is no such report any more.' });
  });

  test('a round is kept with those before', async () => {
    const round = { seed: 'x', files: ['a', 'b'], votes: { neutral: 0, sharpest: null, ranks: [1, 0] } };
    await keepRoundAction('s', round);
    const answer = await keepRoundAction('s', round);
    expect(answer).toMatchObject({ ok: true, rounds: [round, round] });
    expect(mockDocument.blindRounds).toHaveLength(2);
  });

  test('another session’s pictures', async () => {
    expect(await comparedAction('x')).toEqual({ id: 'x' });
  });

  test('bounds hold for everybody: an owner changes them', async () => {
    mockWho.role = 'reviewer';
    expect(await keepBoundsAction(null)).toEqual({
      ok: false,
      error: expect.stringContaining('an owner changes them'),
    });
    mockWho.role = 'owner';
    expect(mockCalls).toEqual([]);
  });

  test('the usual bounds are no bounds', async () => {
    expect(await keepBoundsAction(null)).toEqual({ ok: true });
    expect(mockCalls.at(-1)).toEqual(['setting', 'bands', null]);
  });
});
