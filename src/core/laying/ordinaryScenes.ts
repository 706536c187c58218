/**
 * Ordinary scenes: pictures of a `frame` patch are laid on bare ones of the same view, frame by frame, and what each pair tells is kept:
 * the map of light ratios, how sharp one is against the other. Pictures that show another view are told, never forced.
 */
import { luminanceOf } from './sceneView';
import { pixelsOfRect } from '../reading/window';
import { prepareLay } from './lay';
import { exposureMissing, unreadableFile } from '../words/reading';
import { patchesOfScene } from '../session/parse';
import type { Patch, Session, Take } from '../session/schema';
import type { PictureSource } from '../reading/source';
import type { PictureFacts } from '../reading/facts';
import { PICTURES_AT_A_TIME } from '../reading/concurrently';
import { exposureRules, exposureOf, markDoubt, timesOf } from '../reading/exposures';
import { ordinaryTakes } from '../reading/ordinaryTakes';
import { reduceOpened } from '../reading/opened';
import type { ReadOptions } from '../reading/readShots';
import { relate, roundOf } from './relate';
import type { Loaded, OrdinaryPair, OrdinaryPicture, OrdinaryScene, Relation, Views } from './ordinaryTypes';
import { shotsOf, withTelemetry, type Shot } from '../reading/shots';
import type { FoundFault } from '../reading/observations';
import { isOnlyTold } from '../light/camera/trust';
import type { TableCache } from '../light/decoding';

export type OrdinaryOptions = ReadOptions & { filter?: string };

/** Views held at a time: a 4K one takes some 14 MB. */
const MOST_VIEWS = 30;
/** Pictures that are read before they are wanted. */
const AHEAD = 4;
/** Changes when what pairs tell changes. */
const RELATION = 11;
interface Seen extends Shot {
  facts: PictureFacts;
}

/** Looks at all scenes with a `frame` patch. */
export async function observeOrdinaryScenes(
  session: Session,
  source: PictureSource,
  tables: TableCache,
  options: OrdinaryOptions,
): Promise<{ scenes: OrdinaryScene[]; faults: FoundFault[] }> {
  const scenes: OrdinaryScene[] = [];
  const faults: FoundFault[] = [];
  for (const { id } of session.scenes)
    for (const patch of patchesOfScene(session, id).filter((one) => one.role === 'frame')) {
      const takes = ordinaryTakes(session, id).filter(
        (take) => options.filter === undefined || take.filter === null || take.filter === options.filter,
      );
      if (takes.length === 0) continue;
      const found = await observeScene(patch, takes, { session, source, tables, options });
      faults.push(...found.faults);
      if (found.scene) scenes.push(found.scene);
    }
  return { scenes, faults };
}

interface Tools {
  session: Session;
  source: PictureSource;
  tables: TableCache;
  options: OrdinaryOptions;
}

async function observeScene(
  patch: Patch,
  takes: readonly Take[],
  { session, source, tables, options }: Tools,
): Promise<{ scene: OrdinaryScene | null; faults: FoundFault[] }> {
  const { shots, faults } = await shotsOf(takes, source);
  const ordered = inOrder(takes).filter((take) => shots.some((shot) => shot.take === take));
  const shotsOfTake = (take: Take) => shots.filter((shot) => shot.take === take);
  const steps = stepsOf(ordered);
  const files = steps.flatMap(({ take }) => roundOf(shotsOfTake(take)).map(({ file }) => file));
  const views = viewsOf(patch, files, { session, source, tables, options });
  const relations = new Map<string, Relation>();
  const total = shots.length;
  let done = 0;
  const relateTake = async (take: Take, others: readonly Take[]) => {
    options.signal?.throwIfAborted();
    const own = shotsOfTake(take);
    const against = others.map((other) =>
      shotsOfTake(other).filter(({ file }) => relations.get(other.id)?.facts[file]),
    );
    const relation = await remembered(own, against, patch, { session, source, tables, options }, () =>
      relate(own, against, relations, views, options.signal),
    );
    relations.set(take.id, relation);
    done += own.length;
    options.onProgress?.({ done, total, take: take.id });
    for (const { file, words } of relation.unreadable)
      faults.push({ filter: take.filter, fault: unreadableFile(take.id, file, words) });
  };
  for (const [i, { take, on }] of steps.entries()) {
    await relateTake(take, on);
    const later = new Set(steps.slice(i + 1).flatMap((step) => [step.take, ...step.on]));
    for (const past of [take, ...on]) if (!later.has(past)) views.drop(shotsOfTake(past).map(({ file }) => file));
  }
  const seen: Seen[] = shots.flatMap((shot) => {
    const facts = relations.get(shot.take.id)?.facts[shot.file];
    return facts ? [{ ...shot, facts: withTelemetry(facts, shot) }] : [];
  });
  if (!seen.some(({ take }) => take.filter === null)) return { scene: null, faults };
  return { scene: sceneOf(patch, seen, relations, session, faults), faults };
}

/** The takes in the order in which they are laid, so that a bare one's pictures are read once for the filters on both its sides. */
function stepsOf(ordered: readonly Take[]): { take: Take; on: Take[] }[] {
  const bares = ordered.filter((take) => take.filter === null);
  const steps: { take: Take; on: Take[] }[] = [];
  const ready = new Set<Take>();
  for (const [at, take] of ordered.entries()) {
    const before = ordered.slice(0, at).findLast((one) => one.filter === null);
    const after = ordered.slice(at + 1).find((one) => one.filter === null);
    const needed = take.filter === null ? [take] : [before, after].filter((one) => one !== undefined);
    for (const bare of needed) {
      if (ready.has(bare)) continue;
      ready.add(bare);
      const previous = bares[bares.indexOf(bare) - 1];
      steps.push({ take: bare, on: previous ? [previous] : [] });
    }
    if (take.filter !== null && needed.length > 0) steps.push({ take, on: needed });
  }
  return steps;
}

/** By time where all takes have one, else as the session has them. */
function inOrder(takes: readonly Take[]): Take[] {
  const time = (take: Take) => Date.parse(take.capturedAt ?? '');
  return takes.every((take) => Number.isFinite(time(take))) ? [...takes].sort((a, b) => time(a) - time(b)) : [...takes];
}

/** @param files in the order in which they will be wanted: the next ones are read while one is looked at */
function viewsOf(patch: Patch, files: readonly string[], { source, tables, options }: Tools): Views {
  const { concurrency = PICTURES_AT_A_TIME } = options;
  const views = new Map<string, Promise<Loaded>>();
  const begun = new Set<string>();
  let [reading, wanted] = [0, -1];
  return {
    load(file) {
      wanted = Math.max(wanted, files.indexOf(file));
      const loading = take(file);
      goOn();
      return loading;
    },
    drop(past) {
      for (const file of past) views.delete(file);
    },
  };

  function goOn(): void {
    for (const next of files.slice(wanted + 1, wanted + 1 + AHEAD))
      if (reading < concurrency && !begun.has(next)) void take(next);
  }

  function take(file: string): Promise<Loaded> {
    const known = views.get(file) ?? read(file);
    begun.add(file);
    // The one that was wanted last goes last.
    views.delete(file);
    views.set(file, known);
    if (views.size > MOST_VIEWS) views.delete(views.keys().next().value!);
    return known;
  }

  function read(file: string): Promise<Loaded> {
    reading++;
    const loading = readView(file);
    const end = () => {
      reading--;
      goOn();
    };
    // Whoever waits for it is told what went wrong; one that is read ahead may have nobody waiting yet.
    loading.then(end, end);
    return loading;
  }

  async function readView(file: string): Promise<Loaded> {
    const picture = await source.open(file, options.signal);
    try {
      const { facts } = picture;
      const decoding = tables.decodingOf(facts);
      const pixels = pixelsOfRect(patch.rect, facts.width, facts.height) ?? { x: 0, y: 0, width: 1, height: 1 };
      const [{ view }] = await reduceOpened(picture, { requests: [{ patch, kind: 'view', pixels }], decoding });
      const { width, height, cellPx } = view!;
      const lay = prepareLay(() => luminanceOf(view!, decoding.luminance), width, height, cellPx);
      return { facts, view: view!, lay };
    } finally {
      picture.close();
    }
  }
}

/** Takes what is known of a take from memory where nothing has changed since. */
async function remembered(
  own: readonly Shot[],
  against: readonly (readonly Shot[])[],
  patch: Patch,
  { source, tables, options: { memory } }: Tools,
  relateAnew: () => Promise<Relation>,
): Promise<Relation> {
  const files = [own, ...against].flatMap((list) => list.map(({ file }) => file));
  const ids = files.map((file) => source.identify?.(file) ?? null);
  if (!memory || ids.some((id) => id === null)) return relateAnew();
  const nameOf = async (): Promise<string | null> => {
    const decodings = new Set<string>();
    for (const id of ids) {
      const facts = (await memory.recall(`facts/${id}`)) as PictureFacts | undefined;
      if (!facts) return null;
      decodings.add(tables.decodingOf(facts).name);
    }
    const { x, y, width, height } = patch.rect;
    return `ordinary/${RELATION}/${[x, y, width, height].join(',')}/${[...decodings].join(' ')}/${own.length}/${ids.join(' ')}`;
  };
  const name = await nameOf();
  const known = name === null ? undefined : ((await memory.recall(name)) as Relation | undefined);
  if (known) return known;
  const relation = await relateAnew();
  for (const [i, file] of files.entries())
    if (relation.facts[file]) await memory.keep(`facts/${ids[i]}`, relation.facts[file]);
  const named = relation.unreadable.length > 0 ? null : await nameOf();
  if (named !== null) await memory.keep(named, relation);
  return relation;
}

function sceneOf(
  patch: Patch,
  seen: readonly Seen[],
  relations: ReadonlyMap<string, Relation>,
  session: Session,
  faults: FoundFault[],
): OrdinaryScene {
  const times = timesOf(seen);
  const rules = exposureRules(seen, session);
  const missing = new Set<string>();
  const pictures = seen.map((shot, i): OrdinaryPicture => {
    const { take, file, facts, seconds } = shot;
    const relation = relations.get(take.id)!;
    const exposure = exposureOf(shot, rules);
    if (typeof exposure === 'string' && !missing.has(take.id)) {
      missing.add(take.id);
      faults.push({ filter: take.filter, fault: exposureMissing(take.id, exposure) });
    }
    return {
      take: take.id,
      file,
      filter: take.filter,
      seconds,
      bits: facts.clip?.bits ?? facts.bitDepth,
      timeMs: times[i],
      exposureLog2: typeof exposure === 'number' ? exposure : NaN,
      markDoubt: markDoubt(shot, rules),
      told: isOnlyTold(facts, session.rig.response) ? facts.encoding : null,
      whiteBalance: { said: take.whiteBalance ?? null, own: facts.whiteBalance },
      ...relation.stats[file],
      ...(relation.falls[file] ? { fall: relation.falls[file] } : {}),
    };
  });
  const placeOf = new Map(pictures.map(({ file }, i) => [file, i]));
  // By time, whatever the order in which they were laid.
  const pairs = [...relations.values()]
    .flatMap((relation) =>
      relation.pairs.map(({ first, second, laid, map }): OrdinaryPair => ({
        first: placeOf.get(first)!,
        second: placeOf.get(second)!,
        homography: laid.homography,
        agreement: laid.agreement,
        errorPx: laid.errorPx,
        map,
      })),
    )
    .sort((a, b) => a.first - b.first);
  const { width, height } = seen[0].facts;
  const pixels = pixelsOfRect(patch.rect, width, height);
  return {
    patch,
    width: pixels?.width ?? width,
    height: pixels?.height ?? height,
    pictures,
    pairs,
    unpaired: [...relations.values()].flatMap((relation) => relation.unpaired),
  };
}
