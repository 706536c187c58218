/**
 * Takes on a camera that turns about (a full pan): a row of frames or stills, each at a heading of its own, of which only the sky and
 * its reference are read. The view changes from one to the next, so nothing is laid on anything.
 */
import { isOnlyTold } from '../../light/camera/trust';
import type { TableCache } from '../../light/decoding';
import type { FileEncoding } from '../../light/response';
import type { Reduced } from '../../reading/asked';
import { forEachConcurrently, PICTURES_AT_A_TIME } from '../../reading/concurrently';
import { UnreadablePicture, type PictureFacts } from '../../reading/facts';
import { openRemembered } from '../../reading/memory';
import type { FoundFault } from '../../reading/observations';
import { reduceOpened } from '../../reading/opened';
import type { PatchStatistics } from '../../reading/patchStatistics';
import type { ReadOptions } from '../../reading/readShots';
import { requestsOf } from '../../reading/requests';
import { shotsOf } from '../../reading/shots';
import type { PictureSource } from '../../reading/source';
import { patchesOfScene } from '../../session/parse';
import type { Patch, Session, Take } from '../../session/schema';
import { turnWithoutPatches, unreadableFile } from '../../words/reading';

/** One moment of a turn. */
export interface TurnMoment {
  scene: string;
  take: string;
  filter: string | null;
  /** Degrees from north, clockwise. */
  heading: number;
  sky: PatchStatistics;
  reference: PatchStatistics;
  /** The encoding that its file only tells; `null` where it is believed. */
  told: FileEncoding | null;
}

/** Reads all turns of a session. */
export async function observeTurns(
  session: Session,
  source: PictureSource,
  tables: TableCache,
  { memory, signal, filter, concurrency = PICTURES_AT_A_TIME }: ReadOptions & { filter?: string },
): Promise<{ moments: TurnMoment[]; faults: FoundFault[] }> {
  const takes = session.takes.filter(
    (take) => take.turn && (filter === undefined || take.filter === null || take.filter === filter),
  );
  const moments: TurnMoment[] = [];
  const { shots, faults } = await shotsOf(takes, source);
  for (const take of takes) {
    const own = shots.filter((shot) => shot.take === take);
    const patches = patchesOfScene(session, take.scene).filter(({ role }) => role === 'sky' || role === 'reference');
    const missing = (['sky', 'reference'] as const).filter((role) => !patches.some((patch) => patch.role === role));
    if (missing.length > 0) {
      faults.push({ filter: take.filter, fault: turnWithoutPatches(take.id, take.scene, missing) });
      continue;
    }
    await forEachConcurrently([...own.entries()], concurrency, async ([i, { file }]) => {
      signal?.throwIfAborted();
      try {
        const { facts, levels } = await readLevels(file, patches);
        const [sky, reference] = (['sky', 'reference'] as const).map(
          (role) => levels.get(patches.find((patch) => patch.role === role)!.id)?.level,
        );
        const heading = headingOf(take, facts, i, own.length);
        if (sky && reference)
          moments.push({
            scene: take.scene,
            take: take.id,
            filter: take.filter,
            heading,
            sky,
            reference,
            told: isOnlyTold(facts, session.rig.response) ? facts.encoding : null,
          });
      } catch (error) {
        if (!(error instanceof UnreadablePicture)) throw error;
        faults.push({ filter: take.filter, fault: unreadableFile(take.id, file, error.reason) });
      }
    });
  }
  return { moments, faults };

  async function readLevels(
    file: string,
    patches: readonly Patch[],
  ): Promise<{ facts: PictureFacts; levels: Map<string, Reduced> }> {
    const picture = await openRemembered(source, memory, file, signal);
    try {
      const { facts } = picture;
      const requests = requestsOf(patches, facts, { kind: 'same' });
      const reduced = await reduceOpened(picture, {
        requests,
        decoding: tables.decodingOf(facts),
      });
      return { facts, levels: new Map(reduced.map((one, k) => [requests[k].patch.id, one])) };
    } finally {
      picture.close();
    }
  }
}

/** Frames by their time between the first and the last of the span, stills by their place in the row. */
function headingOf({ turn, span }: Take, { clip, frameSeconds }: PictureFacts, i: number, count: number): number {
  const { fromDegrees, toDegrees } = turn!;
  let share = i / Math.max(1, count - 1);
  if (clip && frameSeconds !== undefined) {
    const last = Math.max(0, clip.seconds - 1 / clip.framesPerSecond);
    const [from, to] = [Math.max(0, span?.from ?? 0), Math.min(last, span?.to ?? last)];
    share = to > from ? (frameSeconds - from) / (to - from) : 0;
  }
  return fromDegrees + (toDegrees - fromDegrees) * share;
}
