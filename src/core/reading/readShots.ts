/** Reads every picture once, in two passes: opened, laid on its scene's bare view; then its windows reduced and the picture let go. */
import type { ViewState } from '../laying/carry';
import { placesWindow } from '../light/camera/placesWindow';
import type { TableCache } from '../light/decoding';
import type { Session } from '../session/schema';
import { unreadableFile } from '../words/reading';
import type { Reduced } from './asked';
import { forEachConcurrently, PICTURES_AT_A_TIME } from './concurrently';
import { UnreadablePicture, type PictureFacts } from './facts';
import { openRemembered, type Memory } from './memory';
import type { FoundFault } from './observations';
import { reduceOpened } from './opened';
import type { ReadingPlan } from './readingPlan';
import { requestsOf } from './requests';
import { withTelemetry, type Shot } from './shots';
import type { PictureSource } from './source';
import type { ViewRegistry } from './views';
import type { PixelRect } from './window';

export interface ReadOptions {
  /** Pictures read at the same time. */
  concurrency?: number;
  /** What was read before; without it everything is read. */
  memory?: Memory;
  onProgress?: (progress: { done: number; total: number; take: string }) => void;
  signal?: AbortSignal;
}

/** A picture that was read. */
export interface ReadShot extends Shot {
  facts: PictureFacts;
  view: ViewState;
  /** By patch. */
  reduced: Map<string, Reduced>;
  /** Where patches lay in this picture. */
  places: Map<string, PixelRect>;
}

interface Reading {
  session: Session;
  source: PictureSource;
  tables: TableCache;
  views: ViewRegistry;
}

/** All shots that could be read, in order, and why the others couldn't. */
export async function readShots(
  shots: readonly Shot[],
  { patchesOf }: Pick<ReadingPlan, 'patchesOf'>,
  { session, source, tables, views }: Reading,
  { concurrency = PICTURES_AT_A_TIME, memory, onProgress, signal }: ReadOptions,
): Promise<{ read: ReadShot[]; faults: FoundFault[] }> {
  const results = new Array<ReadShot | null>(shots.length).fill(null);
  const faults: FoundFault[] = [];
  let done = 0;
  // Stills each, of a clip one frame.
  const firsts = new Set(shots.filter((shot, i) => shot.seconds === null || shots[i - 1]?.original !== shot.original));
  const isFirst = (shot: Shot) => firsts.has(shot);
  const readShot = async (at: number): Promise<void> => {
    signal?.throwIfAborted();
    const shot = shots[at];
    try {
      results[at] = await readOne(shot);
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      faults.push({ filter: shot.take.filter, fault: unreadableFile(shot.take.id, shot.file, error.reason) });
    }
    onProgress?.({ done: ++done, total: shots.length, take: shot.take.id });
  };
  // The first readable bare picture of each scene is the view that all others are laid on.
  const pending = new Set(shots.keys());
  await forEachConcurrently([...patchesOf.keys()], concurrency, async (scene) => {
    for (const [at, { take }] of shots.entries()) {
      if (take.scene !== scene || take.filter !== null) continue;
      pending.delete(at);
      await readShot(at);
      if (results[at]) break;
    }
  });
  await forEachConcurrently([...pending], concurrency, readShot);
  return { read: results.filter((result) => result !== null), faults };

  async function readOne(shot: Shot): Promise<ReadShot> {
    const picture = await openRemembered(source, memory, shot.file, signal);
    try {
      const { facts } = picture;
      const view = views.place(shot.take, shot.file, picture);
      const requests = requestsOf(patchesOf.get(shot.take.scene) ?? [], facts, view);
      const places = placesWindow(facts, shot.take, session, isFirst(shot));
      if (places) requests.push(places);
      const decoding = tables.decodingOf(facts);
      const parts = await reduceOpened(picture, { requests, decoding });
      const reduced = new Map<string, Reduced>();
      parts.forEach((part, i) => {
        const { id } = requests[i].patch;
        reduced.set(id, { ...reduced.get(id), ...part });
      });
      const rects = new Map(requests.map((request) => [request.patch.id, request.pixels]));
      return { ...shot, facts: withTelemetry(facts, shot), view, reduced, places: rects };
    } finally {
      picture.close();
    }
  }
}
