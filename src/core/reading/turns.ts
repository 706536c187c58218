/**
 * Takes on a camera that turns about (a full pan): a row of frames or stills, each at a heading of its own, of which only the sky and
 * its reference are read. The view changes from one to the next, so nothing is laid on anything.
 */
import type { PatchStatistics } from './patchStatistics';
import { fault } from '../words/faults';
import { patchesOfScene } from '../session/parse';
import type { Session, Take } from '../session/schema';
import { UnreadablePicture, type PictureFacts, type PictureSource } from './source';
import { forEachConcurrently, PICTURES_AT_A_TIME } from './concurrently';
import { shotsOf, type FoundFault, type Shot } from './shots';
import { readRemembered, type Memory } from './memory';
import { requestsOf, type Reduced, type WindowRequest } from './reduce';
import type { TableCache } from './decoding';

/** One moment of a turn. */
export interface TurnMoment {
  scene: string;
  take: string;
  filter: string | null;
  /** Degrees from north, clockwise. */
  heading: number;
  sky: PatchStatistics;
  reference: PatchStatistics;
}

export interface TurnOptions {
  memory?: Memory;
  signal?: AbortSignal;
  filter?: string;
  concurrency?: number;
}

/** Reads all turns of a session. */
export async function gatherTurns(
  session: Session,
  source: PictureSource,
  tables: TableCache,
  { memory, signal, filter, concurrency = PICTURES_AT_A_TIME }: TurnOptions,
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
      const words = `${take.id} turns about, but “${take.scene}” has no ${missing.join(' and no ')} patch to read.`;
      faults.push({ filter: take.filter, fault: fault('reference-missing', 'error', [take.id], words) });
      continue;
    }
    await forEachConcurrently([...own.entries()], concurrency, async ([i, shot]) => {
      signal?.throwIfAborted();
      try {
        const { facts, reduced } = await read(shot);
        const of = (role: string) => patches.find((patch) => patch.role === role)!.id;
        const [sky, reference] = [of('sky'), of('reference')].map((id) => reduced.get(id)?.level);
        if (sky && reference)
          moments.push({
            scene: take.scene,
            take: take.id,
            filter: take.filter,
            heading: headingOf(take, facts, i, own.length),
            sky,
            reference,
          });
      } catch (error) {
        if (!(error instanceof UnreadablePicture)) throw error;
        const words = `${shot.file} can’t be read: ${error.reason}`;
        faults.push({ filter: take.filter, fault: fault('file-unreadable', 'error', [take.id], words) });
      }
    });
    async function read({ file }: Shot): Promise<{ facts: PictureFacts; reduced: Map<string, Reduced> }> {
      let requests: WindowRequest[] = [];
      const picture = await readRemembered(
        source,
        memory,
        file,
        (facts) => {
          requests = requestsOf(patches, facts, { kind: 'same' });
          return { requests, decoding: tables.decodingOf(facts.encoding, facts.bitDepth) };
        },
        signal,
      );
      const reduced = new Map(picture.reduced.map((one, k) => [requests[k].patch.id, one]));
      return { facts: picture.facts, reduced };
    }
  }
  return { moments, faults };
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
