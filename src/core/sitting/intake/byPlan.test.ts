import { parseKitShorthand } from '../kits/shorthand';
import { makePlan, planRequestSchema } from '../planning/plan';
import { plannedOf } from '../planning/planned';
import { parseSession } from '../../session/parse';
import type { Session } from '../../session/schema';
import { firstOfEachKind, placesByOrder, spreadInOrder, takeOfPlan } from './byPlan';
import { layFiles } from './layFiles';
import { sessionSpots } from './spots';
import type { FileToLay } from './laidFile';

const request = planRequestSchema.parse({
  kit: { id: 'kit', filters: parseKitShorthand('ND4 8 64 CPL').filters },
  rig: {
    widest: 2.8,
    baseIso: 100,
    highestIso: 6400,
    fastest: 1 / 8000,
    slowest: 1,
    step: 1 / 3,
  },
  scenes: ['chart', 'screen'],
  ev100: 12,
  fNumber: 2.8,
  slowest: 1,
  bareEvery: 2,
  ringAngles: 3,
});
const { takes } = makePlan(request);
const session: Session = parseSession({
  format: 'aurora-glade-session',
  version: 1,
  kits: [request.kit],
  scenes: [
    { id: 'chart', kind: 'chart' },
    { id: 'screen', kind: 'screen' },
  ],
  takes: [],
  plan: { request, takes },
});
const { filters } = parseKitShorthand('ND4 8 64 CPL');

/** A file of a planned take: its exposure and time, and a camera's name that says nothing but the scene. */
function fileOf(index: number, repeat = 0): FileToLay {
  const take = takes[index];
  const { shutterSeconds, iso, fNumber } = take.setting;
  const word = take.filter === null ? 'bare' : take.filter;
  const ring = take.ringDegrees === undefined ? '' : ` ${take.ringDegrees}deg`;
  return {
    path: `${take.scene}_${word}${ring} ${1000 + 2 * index + repeat}.tif`,
    capturedAt: new Date(Date.parse('2026-05-14T09:00:00Z') + (2 * index + repeat) * 40_000).toISOString(),
    exposureLog2: Math.log2((shutterSeconds * iso) / fNumber ** 2),
    lightLog2: null,
    look: null,
  };
}

test('a whole card is spread over the plan: bare takes by their order, repeats stay together, angles by name', () => {
  const files = takes.flatMap((_, i) => [fileOf(i), fileOf(i, 1)]);
  const places = firstOfEachKind(sessionSpots(session), session);
  const { files: laid } = layFiles(files, places, filters);
  expect(laid.filter((one) => !one.sure).map((one) => [one.path, one.doubt])).toEqual([]);
  const spread = spreadInOrder(laid, files, session);
  expect(spread.map((one) => one.place)).toEqual(takes.flatMap((take) => [`plan ${take.id}`, `plan ${take.id}`]));
});

test('a take that was missed doesn’t shift the others', () => {
  const missed = takes.findIndex((take) => take.filter === 'nd8');
  const files = takes.flatMap((_, i) => (i === missed ? [] : [fileOf(i)]));
  const { files: laid } = layFiles(files, firstOfEachKind(sessionSpots(session), session), filters);
  const spread = spreadInOrder(laid, files, session);
  expect(spread.map((one) => one.place)).toEqual(takes.flatMap((take, i) => (i === missed ? [] : [`plan ${take.id}`])));
});

test('a card of nameless files is laid by its row, though two filters were exchanged', () => {
  const row = takes.flatMap((take) => [take, take]);
  const acts = (filter: string | null) => ({ nd4: 2, nd8: 6, nd64: 3, cpl: 1.5 })[filter ?? ''] ?? 0;
  const card = row.map((take, i): FileToLay => {
    const file = fileOf(takes.indexOf(take), i % 2);
    return { ...file, path: `AG${2000 + i}.JPG`, lightLog2: file.exposureLog2! - acts(take.filter) };
  });
  const spots = firstOfEachKind(sessionSpots(session), session);
  const byOrder = placesByOrder(card, spots, session);
  const { files: laid } = layFiles(card, spots, filters, [], byOrder);
  expect(laid.filter((one) => !one.sure).map((one) => [one.path, one.doubt])).toEqual([]);
  expect(spreadInOrder(laid, card, session).map((one) => one.place)).toEqual(row.map((take) => `plan ${take.id}`));
  // A card that the plan doesn't hold says nothing by its order.
  const strange = card.map((file, i) => (i === 2 ? { ...file, exposureLog2: file.exposureLog2! - 9 } : file));
  expect(placesByOrder(strange, spots, session)).toEqual(strange.map(() => null));
});

test('a planned take enters with its angle, and with its exposure where the file has none', () => {
  const ring = takes.find((take) => take.scene === 'screen' && take.ringDegrees === 60)!;
  expect(takeOfPlan(session, ring.id, true)).toEqual({
    id: ring.id,
    role: 'sweep',
    setting: { ringDegrees: 60, mark: undefined },
  });
  expect(takeOfPlan(session, ring.id, false)).toMatchObject({ exposure: { iso: 100, fNumber: 2.8 } });
  expect(takeOfPlan(session, 'nothing', true)).toBeNull();
});

test('plan and session round-trip, and what another program calls a plan is left alone', () => {
  const again = parseSession(JSON.parse(JSON.stringify(session)));
  expect(plannedOf(again)).toEqual(takes);
  expect(plannedOf(parseSession({ ...again, plan: 'at noon' }))).toEqual([]);
});

test('with a log, times tell equal takes apart, settings and remarks of the sheet enter with the take', () => {
  const start = Date.parse('2026-05-14T10:00:00Z');
  const log = takes.flatMap((take, i) => [
    ...(take.filter === 'nd8'
      ? [
          {
            id: `tap-setting-${i}`,
            kind: 'setting',
            take: take.id,
            at: new Date(start).toISOString(),
            setting: { ...take.setting, iso: 200 },
          },
          { id: `tap-cloud-${i}`, kind: 'cloud', take: take.id, at: new Date(start + 1).toISOString() },
        ]
      : []),
    { id: `tap-done-${i}`, kind: 'done', take: take.id, at: new Date(start + i * 120_000).toISOString() },
  ]);
  const shot: Session = { ...session, plan: { request, takes, log } };
  const spots = firstOfEachKind(sessionSpots(shot), shot);
  expect(spots.filter((spot) => spot.planned !== undefined)).toHaveLength(takes.length);
  // The camera's clock is an hour off, and its files come in the order of the plan.
  const files = takes.map((take, i) => ({
    ...fileOf(i),
    capturedAt: new Date(start - 3_600_000 + i * 120_000 - 5000).toISOString(),
    ...(take.filter === 'nd8' ? { exposureLog2: fileOf(i).exposureLog2! + 1 } : {}),
  }));
  const { files: laid, clockOffsetSeconds } = layFiles(files, spots, filters);
  expect(clockOffsetSeconds).toBeCloseTo(-3605, 0);
  expect(spreadInOrder(laid, files, shot).map((one) => one.place)).toEqual(takes.map((take) => `plan ${take.id}`));
  const nd8 = takes.find((take) => take.filter === 'nd8')!;
  expect(takeOfPlan(shot, nd8.id, false)).toMatchObject({ note: 'a cloud', exposure: { iso: 200 } });
});

test('two darker bare pictures are laid by their exposures, and enter as a bracket', () => {
  const darker = makePlan({ ...request, darkBares: true, ev100: 9 }).takes;
  const planned = parseSession({ ...session, plan: { request, takes: darker } });
  const files = darker.map((take, i): FileToLay => {
    const { shutterSeconds, iso, fNumber } = take.setting;
    return {
      path: `A${1000 + i}.tif`,
      capturedAt: new Date(Date.parse('2026-05-14T09:00:00Z') + i * 80_000).toISOString(),
      exposureLog2: Math.log2((shutterSeconds * iso) / fNumber ** 2),
      lightLog2: null,
      look: null,
    };
  });
  const places = firstOfEachKind(sessionSpots(planned), planned);
  const { files: laid } = layFiles(files, places, filters, [], placesByOrder(files, places, planned));
  const spread = spreadInOrder(laid, files, planned);
  const dark = darker.flatMap(({ role, id }, i) => (role === 'bracket' ? [[i, id] as const] : []));
  expect(dark).toHaveLength(2);
  for (const [i, id] of dark) expect(spread[i].place).toBe(`plan ${id}`);
  expect(takeOfPlan(planned, dark[0][1], true)).toMatchObject({ id: dark[0][1], role: 'bracket' });
});
