/** Where files of a sitting that goes on belong: by what they show, and by what people do. */
import { exposureLog2 } from '@/core/formulas/optics/exposure';
import { nominalStops } from '@/core/session/notation';
import type { PictureFacts } from '@/core/reading/facts';
import { exposureBeside, type ArrivedFile } from '@/core/sitting/intake/arrived';
import type { LaidFile } from '@/core/sitting/intake/laidFile';
import { sessionSpots } from '@/core/sitting/intake/spots';
import { planSpot } from '@/core/sitting/intake/byPlan';
import type { PlannedTake } from '@/core/sitting/planning/plan';
import { plannedOf } from '@/core/sitting/planning/planned';
import { takesToShoot } from '@/core/sitting/planning/progress';
import type { Session } from '@/core/session/schema';
import { loadSession, storedFiles, type LoadedSession } from '@/store';
import { addFiles, type AddedFile } from './addFiles';
import { layOnSession } from './footage';
import { waitingFor } from './liveSetting';

/** A file that could not be laid, with the reason. */
export interface Unlaid {
  path: string;
  why: string;
}

/** Pictures of one take come within so long of each other. */
export const BURST_MS = 10_000;

/** Lays what has arrived since the sitting began; what has no place waits. */
export async function layArrived(id: string, after: number): Promise<Unlaid[]> {
  const arrived = await waitingFor({ after });
  const unlaid: Unlaid[] = [];
  // One after the other, as they were shot: each that is laid makes the next one's place plainer.
  for (const { path, stored } of arrived) {
    if (!stored.facts.readable) {
      if (!stored.facts.telemetry) unlaid.push({ path, why: stored.facts.reason });
      continue;
    }
    const loaded = await loadSession(id);
    const { session } = loaded;
    const { laid, files } = await layOnSession(id, [{ path, sha256: stored.sha256 }]);
    const [one] = laid;
    const place = (await burstOf(loaded, stored.facts.picture)) ?? (one ? placeOf(one, session) : null);
    const to = place === null ? undefined : sessionSpots(session).find((spot) => spot.id === place);
    if (!one || !to) {
      unlaid.push({ path, why: one?.doubt || 'It fits no take of this session.' });
      continue;
    }
    const file: ArrivedFile | undefined = files.find((other) => other.path === path);
    const { shutterSeconds, iso } = file ? exposureBeside(file, files) : {};
    const { take, filter, scene, planned } = to;
    const target: AddedFile['to'] = {
      ...{ take, filter, scene },
      ...(planned === undefined ? {} : { planned }),
      exposed: shutterSeconds !== undefined && iso !== undefined,
    };
    const result = await addFiles(id, [{ path, sha256: stored.sha256, to: target }]);
    if (!result.ok) unlaid.push({ path, why: result.error });
  }
  return unlaid;
}

/** Exposures closer than this are one setting, stops. */
const SAME_STOPS = 0.05;

/**
 * The take that came last, where it has fewer pictures than were planned and this one was taken at the same setting a moment after: nobody
 * changes a filter so fast, whatever the picture looks like.
 */
async function burstOf({ session, files }: LoadedSession, facts: PictureFacts): Promise<string | null> {
  const last = session.takes.at(-1);
  const repeats = plannedOf(session).find((one) => one.id === last?.id)?.repeats ?? 0;
  const sha256 = files.get(last?.files.at(-1) ?? '');
  if (!last || sha256 === undefined || last.files.length >= repeats) return null;
  const before = (await storedFiles([sha256])).get(sha256)?.facts;
  if (!before?.readable || before.picture.capturedAt === null || facts.capturedAt === null) return null;
  const apart = Math.abs(Date.parse(facts.capturedAt) - Date.parse(before.picture.capturedAt));
  const [one, other] = [facts.exposure, before.picture.exposure].map(({ shutterSeconds, iso, fNumber }) =>
    shutterSeconds === undefined || iso === undefined ? NaN : exposureLog2({ shutterSeconds, iso, fNumber }),
  );
  return apart <= BURST_MS && Math.abs(one - other) < SAME_STOPS ? last.id : null;
}

/** What settings and strengths of planned takes may differ by and still ask for the same picture, stops. */
const SAME_SETTING = 0.15;
const SAME_STRENGTH = 0.5;

/** A place that speaks so much less for itself than the likeliest isn't meant. */
const FAR_LESS = 3;

/**
 * Where nothing speaks clearly: the take that came last, as long as it has fewer pictures than were planned and is about as likely as any; or
 * else the take at hand. People shoot in the order of the sheet, and a picture that fits nowhere is spoiled more often than out of its turn; so is
 * one that fits a later take better which expects the same of it, as a variable filter's mark does that takes what a plain filter takes.
 */
function placeOf({ sure, place, candidates }: LaidFile, session: Session): string | null {
  const best = candidates[0]?.score ?? 0;
  const isAboutAsLikely = (id: string) => candidates.some((one) => one.place === id && best - one.score < FAR_LESS);
  const logged = takesToShoot(session);
  const tapped = logged.filter(({ doneMs }) => doneMs !== null).sort((one, other) => other.doneMs! - one.doneMs!);
  const atHand = [...tapped, ...logged.filter(({ state }) => state === 'open')].at(0)?.take;
  const inTurn = atHand ? planSpot(atHand.id) : null;
  const found = logged.find(({ take }) => planSpot(take.id) === place)?.take;
  const isOther = found !== undefined && atHand !== undefined && found !== atHand;
  if (sure) return isOther && expectSame(found, atHand, session) && isAboutAsLikely(inTurn!) ? inTurn : place;
  const last = session.takes.at(-1);
  const repeats = plannedOf(session).find((one) => one.id === last?.id)?.repeats ?? 0;
  if (last && last.files.length < repeats && isAboutAsLikely(last.id)) return last.id;
  return inTurn;
}

/** Whether two planned takes are alike but for their turn: one scene, one setting, filters that should take about as much. */
function expectSame(one: PlannedTake, other: PlannedTake, session: Session): boolean {
  const [own, wanted] = [one, other].map((take) => expectedStops(take, session));
  return (
    one.scene === other.scene &&
    Math.abs(exposureLog2(one.setting) - exposureLog2(other.setting)) < SAME_SETTING &&
    Math.abs(own - wanted) < SAME_STRENGTH
  );
}

/** Stops that a planned take should be darker by; NaN where neither a mark nor a label says. */
function expectedStops({ filter, mark }: PlannedTake, session: Session): number {
  if (filter === null) return 0;
  const found = session.kits.flatMap((kit) => kit.filters).find(({ id }) => id === filter);
  return mark ?? (found && nominalStops(found.nominal)) ?? NaN;
}
