/** Files of a sitting that was planned: takes of one kind (every bare one, say) are told apart by the order in which they were shot. */
import { exposureLog2, writeShutter } from '../../formulas/optics/exposure';
import { logOf, notedOffset, readLog } from '../planning/shootLog';
import { plannedOf } from '../planning/planned';
import type { PlannedTake } from '../planning/plan';
import type { Session } from '../../session/schema';
import { inRow, type FileToLay, type LaidFile, type TakeSpot } from './laidFile';

/** The place of a planned take. */
export const planSpot = (id: string) => `plan ${id}`;

/** What makes planned takes interchangeable but for their order. */
const kindOf = ({ id, filter, scene, ringDegrees, mark, role }: PlannedTake) =>
  // Darker bare pictures are each of a kind of their own.
  JSON.stringify([scene, filter, ringDegrees, mark, ...(role === 'bracket' ? [id] : [])]);

/** Places of planned takes that have no footage yet. */
export function plannedSpots(session: Session): TakeSpot[] {
  const shot = new Set(session.takes.map((take) => take.id));
  const entries = logOf(session);
  const offset = notedOffset(entries) ?? 0;
  return readLog(plannedOf(session), entries)
    .filter(({ take, state }) => !shot.has(take.id) && state !== 'skipped')
    .map(({ take, setting, doneMs }) => ({
      id: planSpot(take.id),
      take: null,
      planned: take.id,
      filter: take.filter,
      scene: take.scene,
      kind: take.scene,
      ...(take.role === 'bracket' ? { bracket: true } : {}),
      exposureLog2: exposureLog2(setting),
      // The log’s times are the phone’s; what the camera’s clock differs by was noted, or is found from the files.
      at: doneMs === null ? null : doneMs + offset,
      ringDegrees: take.ringDegrees,
      mark: take.mark,
    }));
}

/** One place of each kind of planned take: which of several equal ones is meant, the order tells afterwards. */
export function firstOfEachKind(spots: readonly TakeSpot[], session: Session): TakeSpot[] {
  // A log knows when each was shot: then every one is a place of its own.
  if (spots.some((spot) => spot.planned !== undefined && typeof spot.at === 'number')) return [...spots];
  const planned = new Map(plannedOf(session).map((take) => [take.id, take]));
  const seen = new Set<string>();
  return spots.filter((spot) => {
    const take = spot.planned === undefined ? undefined : planned.get(spot.planned);
    if (!take) return true;
    const kind = kindOf(take);
    if (seen.has(kind)) return false;
    seen.add(kind);
    return true;
  });
}

/** A file's exposure is a planned take's within this, stops: marks are rounded, and cameras round them otherwise. */
const SAME_EXPOSURE = 0.3;

/**
 * Which kind of planned take each file's place in the row makes it, where the whole row fits into the plan in one way only: the exposures
 * of a sitting that was shot as planned come in the plan's order, whatever the pictures look like.
 *
 * @returns by file its place, or the one that stands for its kind (see {@link firstOfEachKind}); `null` where the order leaves it open
 */
export function placesByOrder(
  files: readonly FileToLay[],
  spots: readonly TakeSpot[],
  session: Session,
): (string | null)[] {
  const none = files.map(() => null);
  const shot = new Set(session.takes.map((take) => take.id));
  const open = readLog(plannedOf(session), logOf(session)).filter(
    ({ take, state }) => !shot.has(take.id) && state !== 'skipped',
  );
  const once = files.length === open.length;
  const expected = open.flatMap(({ take, setting }) =>
    Array.from({ length: once ? 1 : take.repeats }, () => ({
      id: take.id,
      kind: kindOf(take),
      log2: exposureLog2(setting),
    })),
  );
  if (files.length < 3 || files.length > expected.length || files.some((file) => file.exposureLog2 === null))
    return none;
  const row = inRow(files);
  const fits = (file: number, k: number) => Math.abs(files[file].exposureLog2! - expected[k].log2!) < SAME_EXPOSURE;
  const [earliest, latest] = [new Map<number, number>(), new Map<number, number>()];
  let k = 0;
  for (const file of row) {
    while (k < expected.length && !fits(file, k)) k++;
    if (k === expected.length) return none;
    earliest.set(file, k++);
  }
  k = expected.length - 1;
  for (const file of [...row].reverse()) {
    while (!fits(file, k)) k--;
    latest.set(file, k--);
  }
  const planned = new Map(plannedOf(session).map((take) => [take.id, take]));
  return files.map((_, file) => {
    const [{ id, kind }, other] = [expected[earliest.get(file)!], expected[latest.get(file)!]];
    if (kind !== other.kind) return null;
    const exact = id === other.id ? spots.find((one) => one.planned === id) : undefined;
    const alike = spots.find((one) => one.planned !== undefined && kindOf(planned.get(one.planned)!) === kind);
    return (exact ?? alike)?.id ?? null;
  });
}

/**
 * Spreads files that were laid on a kind of planned take over the takes of that kind, in shooting order: a file belongs to the take at
 * hand while its kind stays the same, then to the next of its kind.
 *
 * @param files in any order; those without a time keep the order of their names
 */
export function spreadInOrder(laid: readonly LaidFile[], files: readonly FileToLay[], session: Session): LaidFile[] {
  const plan = plannedOf(session);
  if (readLog(plan, logOf(session)).some((one) => one.doneMs !== null)) return [...laid];
  const shot = new Set(session.takes.map((take) => take.id));
  const result = [...laid];
  const order = inRow(files);
  let at = -1;
  for (const i of order) {
    const { place } = laid[i];
    const own = plan.find(({ id }) => planSpot(id) === place);
    if (!own) continue;
    const kind = kindOf(own);
    const fits = plan.flatMap((take, k) => (kindOf(take) === kind && !shot.has(take.id) ? [k] : []));
    const next = fits.includes(at) ? at : (fits.find((k) => k > at) ?? fits[fits.length - 1]);
    at = next;
    const id = planSpot(plan[next].id);
    result[i] = {
      ...laid[i],
      place: id,
      candidates: laid[i].candidates.map((one) => (one.place === place ? { ...one, place: id } : one)),
    };
  }
  return result;
}

/** What a take that was planned enters the session with; its settings stand in where the file knows none. */
export function takeOfPlan(session: Session, id: string, fileKnowsExposure: boolean): Record<string, unknown> | null {
  const logged = readLog(plannedOf(session), logOf(session)).find((one) => one.take.id === id);
  if (!logged) return null;
  const { setting, notes, cloud, wrong, take } = logged;
  const { ringDegrees, mark, role } = take;
  const remarks = [...notes, ...(cloud ? ['a cloud'] : []), ...(wrong ? ['wrong setting'] : [])];
  return {
    id,
    ...(role === 'measure' ? {} : { role }),
    ...(remarks.length > 0 ? { note: remarks.join('; ') } : {}),
    ...(ringDegrees === undefined && mark === undefined ? {} : { setting: { ringDegrees, mark } }),
    ...(fileKnowsExposure
      ? {}
      : {
          exposure: {
            shutter: writeShutter(setting.shutterSeconds).replace(' s', ''),
            iso: Math.round(setting.iso),
            fNumber: Math.round(setting.fNumber * 10) / 10,
          },
        }),
  };
}
