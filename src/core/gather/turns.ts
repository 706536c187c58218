/**
 * Takes on a camera that turns about (a full pan): a row of frames or stills, each at a heading of its own, of which only the sky and
 * its reference are read. The view changes from one to the next, so nothing is laid on anything.
 */
import type { PatchStatistics } from '../patches';
import { fault, patchesOfScene, type Session, type Take } from '../session';
import { UnreadablePicture, type PictureSource } from '../source';
import type { FoundFault } from './shots';
import { shotsOf, type Shot } from './shots';
import { readRemembered, type Memory } from './memory';
import { requestsOf, type Reduced, type WindowRequest } from './reduce';
import type { TableCache } from './tables';

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
}

/** Reads all turns of a session. */
export async function gatherTurns(
  session: Session,
  source: PictureSource,
  tables: TableCache,
  { memory, signal, filter }: TurnOptions,
): Promise<{ moments: TurnMoment[]; faults: FoundFault[] }> {
  const takes = session.takes.filter(
    (take) => take.turn && (filter === undefined || take.filter === null || take.filter === filter),
  );
  const moments: TurnMoment[] = [];
  const { shots, faults } = await shotsOf(takes, source);
  for (const take of takes) {
    const own = shots.filter((shot) => shot.take === take);
    const patches = patchesOfScene(session, take.scene).filter(({ role }) => role === 'sky' || role === 'reference');
    if (!patches.some(({ role }) => role === 'sky') || !patches.some(({ role }) => role === 'reference')) continue;
    for (const [i, shot] of own.entries()) {
      signal?.throwIfAborted();
      try {
        const reduced = await read(shot);
        const of = (role: string) => patches.find((patch) => patch.role === role)!.id;
        const [sky, reference] = [of('sky'), of('reference')].map((id) => reduced.get(id)?.level);
        if (sky && reference)
          moments.push({
            scene: take.scene,
            take: take.id,
            filter: take.filter,
            heading: headingOf(take, own, i),
            sky,
            reference,
          });
      } catch (error) {
        if (!(error instanceof UnreadablePicture)) throw error;
        const words = `${shot.file} can’t be read: ${error.reason}`;
        faults.push({ filter: take.filter, fault: fault('file-unreadable', 'error', [take.id], words) });
      }
    }
    async function read({ file }: Shot): Promise<Map<string, Reduced>> {
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
      return new Map(picture.reduced.map((one, k) => [requests[k].patch.id, one]));
    }
  }
  return { moments, faults };
}

/** Frames by their time in the span, stills by their place in the row. */
function headingOf({ turn }: Take, shots: readonly Shot[], i: number): number {
  const { fromDegrees, toDegrees } = turn!;
  const times = shots.map((shot) => shot.seconds);
  const [first, last] = [times[0], times[times.length - 1]];
  const share =
    first === null || last === null || first === last
      ? i / Math.max(1, shots.length - 1)
      : ((times[i] ?? first) - first) / (last - first);
  return fromDegrees + (toDegrees - fromDegrees) * share;
}
