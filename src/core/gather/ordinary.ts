/**
 * Ordinary scenes: pictures of a `frame` patch are laid on bare ones of the same view, frame by frame, and what each pair tells is kept:
 * the map of light ratios, how sharp one is against the other. Pictures that show another view are told, never forced.
 */
import {
  commonSpectra,
  meanFall,
  luminanceOf,
  fallBetween,
  ratioMap,
  spotsOf,
  tileSpectra,
  type Fall,
  type RatioMap,
  type SceneView,
} from '../ordinary';
import { pixelsOfRect } from '../patches';
import {
  applyHomography,
  composeHomographies,
  invertHomography,
  layOn,
  NO_MOVE,
  prepareLay,
  type Homography,
  type Laid,
  type LayView,
} from '../registration';
import { fault, patchesOfScene, type Fault, type Patch, type Session, type Take } from '../session';
import { UnreadablePicture, type PictureFacts, type PictureSource } from '../source';
import { apertureCounts, exposureOf, timesOf } from './exposures';
import type { Memory } from './memory';
import { readReduced } from './readReduced';
import { shotsOf, withTelemetry, type FoundFault, type Shot } from './shots';
import type { TableCache } from './tables';

export interface OrdinaryPicture {
  take: string;
  file: string;
  filter: string | null;
  /** Moment in its clip; `null` for a still. */
  seconds: number | null;
  timeMs: number;
  /** log2 of t·ISO/N²; NaN where it isn't known. */
  exposureLog2: number;
  whiteBalance: { said: string | number | null; own: string | null };
  /** Mean code value per channel, a share of full scale. */
  meanCode: [number, number, number];
  /** Fall of its MTF against bare's, where it could be told. */
  fall?: Fall;
}

export interface OrdinaryPair {
  /** Places in the list of pictures. */
  first: number;
  second: number;
  homography: Homography;
  agreement: number;
  errorPx: number;
  map: RatioMap;
}

export interface OrdinaryScene {
  patch: Pick<Patch, 'id' | 'scene' | 'rect' | 'role'>;
  /** Pixels of the patch. */
  width: number;
  height: number;
  /** Those that were laid on a bare one, and the bare ones. */
  pictures: OrdinaryPicture[];
  pairs: OrdinaryPair[];
  /** Pictures that could not be laid on any: what they were tried on, and why not. */
  unpaired: { take: string; file: string; seconds: number | null; tried: string; words: string }[];
}

export interface OrdinaryOptions {
  memory?: Memory;
  signal?: AbortSignal;
  filter?: string;
  onProgress?: (progress: { done: number; total: number; take: string }) => void;
}

/** Views held at a time: a 4K one takes some 15 MB. */
const MOST_VIEWS = 34;
/** Bare pictures that one is tried on, the likeliest first; fewer where none of its take could be laid so far. */
const TRIES = 3;
const LOST_AFTER = 2;
/** Changes when what pairs tell changes. */
const RELATION = 6;
/** Filters whose strength changes over the frame or with a mark are measured elsewhere. */
const UNEVEN = new Set(['variable-nd', 'graduated-nd']);
/** Scenes that aren't ordinary ones: their light is a polarized screen, or a lamp. */
const SPECIAL = new Set(['screen', 'flare']);

/** Takes of a scene that are measured by their whole registered picture. */
export function ordinaryTakes(session: Session, scene: string): Take[] {
  const kind = session.scenes.find((one) => one.id === scene)?.kind ?? '';
  if (SPECIAL.has(kind)) return [];
  const uneven = new Set(
    session.kits.flatMap((kit) => kit.filters.flatMap((one) => (UNEVEN.has(one.kind) ? [one.id] : []))),
  );
  return session.takes.filter(
    (take) => take.scene === scene && take.role === 'measure' && !take.turn && !uneven.has(take.filter ?? ''),
  );
}

interface Loaded {
  facts: PictureFacts;
  view: SceneView;
  lay: LayView;
}

interface Seen extends Shot {
  facts: PictureFacts;
}

/** What the pictures of one take tell against others; pictures are named by file. */
interface Relation {
  facts: Record<string, PictureFacts>;
  stats: Record<string, Pick<OrdinaryPicture, 'meanCode'>>;
  pairs: { first: string; second: string; laid: Omit<Laid, 'blocks'>; map: RatioMap }[];
  /** From a picture to another of its take. */
  partners: Record<string, { file: string; homography: Homography }>;
  falls: Record<string, Fall>;
  unpaired: OrdinaryScene['unpaired'];
  unreadable: { file: string; words: string }[];
}

/** Looks at all scenes with a `frame` patch. */
export async function gatherOrdinary(
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
      const found = await gatherScene(patch, takes, { session, source, tables, options });
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

async function gatherScene(
  patch: Patch,
  takes: readonly Take[],
  { session, source, tables, options }: Tools,
): Promise<{ scene: OrdinaryScene | null; faults: FoundFault[] }> {
  const { shots, faults } = await shotsOf(takes, source);
  const load = loader(patch, { session, source, tables, options });
  const ordered = inOrder(takes).filter((take) => shots.some((shot) => shot.take === take));
  const bares = ordered.filter((take) => take.filter === null);
  const shotsOfTake = (take: Take) => shots.filter((shot) => shot.take === take);
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
      relate(own, against, relations, load, options.signal),
    );
    relations.set(take.id, relation);
    done += own.length;
    options.onProgress?.({ done, total, take: take.id });
    for (const { file, words } of relation.unreadable)
      faults.push({
        filter: take.filter,
        fault: fault('file-unreadable', 'error', [take.id], `${file} can’t be read: ${words}`),
      });
  };
  // By time, so that a bare take's pictures are read once for the filters on both its sides.
  const ready = new Set<Take>();
  for (const take of ordered) {
    const at = ordered.indexOf(take);
    const before = ordered
      .slice(0, at)
      .filter((one) => one.filter === null)
      .at(-1);
    const after = ordered.slice(at + 1).find((one) => one.filter === null);
    const needed = take.filter === null ? [take] : [before, after].filter((one) => one !== undefined);
    for (const bare of needed) {
      if (ready.has(bare)) continue;
      ready.add(bare);
      const previous = bares[bares.indexOf(bare) - 1];
      await relateTake(bare, previous ? [previous] : []);
    }
    if (take.filter !== null && needed.length > 0) await relateTake(take, needed);
  }
  const seen: Seen[] = shots.flatMap((shot) => {
    const facts = relations.get(shot.take.id)?.facts[shot.file];
    return facts ? [{ ...shot, facts: withTelemetry(facts, shot) }] : [];
  });
  if (!seen.some(({ take }) => take.filter === null)) return { scene: null, faults };
  return { scene: sceneOf(patch, seen, relations, session, faults), faults };
}

/** By time where all takes have one, else as the session has them. */
function inOrder(takes: readonly Take[]): Take[] {
  const time = (take: Take) => Date.parse(take.capturedAt ?? '');
  return takes.every((take) => Number.isFinite(time(take))) ? [...takes].sort((a, b) => time(a) - time(b)) : [...takes];
}

function loader(patch: Patch, { source, tables, options }: Tools) {
  const views = new Map<string, Promise<Loaded>>();
  return (file: string): Promise<Loaded> => {
    const known = views.get(file);
    if (known) {
      views.delete(file);
      views.set(file, known);
      return known;
    }
    const loading = read();
    views.set(file, loading);
    if (views.size > MOST_VIEWS) views.delete(views.keys().next().value!);
    return loading;

    async function read(): Promise<Loaded> {
      let luminance: readonly number[] = [];
      const { facts, reduced } = await readReduced(
        source,
        file,
        (found) => {
          const decoding = tables.decodingOf(found.encoding, found.bitDepth);
          luminance = decoding.luminance;
          const pixels = pixelsOfRect(patch.rect, found.width, found.height) ?? { x: 0, y: 0, width: 1, height: 1 };
          return { requests: [{ patch, kind: 'view', pixels }], decoding };
        },
        options.signal,
      );
      const view = reduced[0].view!;
      return { facts, view, lay: prepareLay(luminanceOf(view, luminance), view.width, view.height, view.cellPx) };
    }
  };
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
      decodings.add(tables.decodingOf(facts.encoding, facts.bitDepth).name);
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

/** Lays the pictures of a take on each other and on those of other takes. */
async function relate(
  own: readonly Shot[],
  against: readonly (readonly Shot[])[],
  relations: ReadonlyMap<string, Relation>,
  load: (file: string) => Promise<Loaded>,
  signal?: AbortSignal,
): Promise<Relation> {
  const relation: Relation = { facts: {}, stats: {}, pairs: [], partners: {}, falls: {}, unpaired: [], unreadable: [] };
  const readable: Shot[] = [];
  for (const shot of own) {
    signal?.throwIfAborted();
    try {
      const { facts, view } = await load(shot.file);
      relation.facts[shot.file] = facts;
      relation.stats[shot.file] = { meanCode: view.meanCode };
      readable.push(shot);
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      relation.unreadable.push({ file: shot.file, words: error.reason });
    }
  }
  const isBare = own[0]?.take.filter === null;
  if (isBare) for (const i of readable.keys()) await findPartner(i);
  for (const shot of readable) {
    const first = await load(shot.file);
    let words: string | null = null;
    let tried: string | null = null;
    const laidOn: { file: string; take: string; homography: Homography }[] = [];
    const tries = relation.pairs.length === 0 && relation.unpaired.length >= LOST_AFTER ? 1 : TRIES;
    for (const others of against) {
      const candidates = await likeliest(shot, first, own, others, load);
      for (const { file, take } of candidates.slice(0, tries)) {
        const second = await load(file);
        const result = sameSize(first, second)
          ? layOn(first.lay, second.lay, NO_MOVE)
          : { words: 'the pictures are of different sizes' };
        await turn(signal);
        if (!('laid' in result)) {
          words ??= result.words;
          tried ??= file;
          continue;
        }
        addPair(shot.file, file, result.laid, first, second);
        laidOn.push({ file, take: take.id, homography: result.laid.homography });
        break;
      }
    }
    if (laidOn.length === 0) {
      if (words !== null && tried !== null)
        relation.unpaired.push({ take: shot.take.id, file: shot.file, seconds: shot.seconds, tried, words });
      continue;
    }
    if (isBare) continue;
    const [on, other] = laidOn;
    const barePartner = relations.get(on.take)?.partners[on.file];
    await findPartner(readable.indexOf(shot));
    const within = await fallOf(first, relation.partners[shot.file], on, barePartner, load);
    // Stills share no noise, and those of one take show the same moment. Frames of one clip share what its codec copied, those of other
    // clips another moment: both ways are asked, and err to other sides.
    const across = other && (shot.seconds !== null || !within) ? await fallAcross(first, on, other, load) : null;
    const fall = within && across ? meanFall(within, across) : (within ?? across);
    if (fall) relation.falls[shot.file] = fall;
    await turn(signal);
  }
  return relation;

  /**
   * Lays a picture on another of its take. Frames near each other share noise that the codec copied from one to the next: partners lie
   * as far apart as the take allows, and lead round all of it.
   */
  async function findPartner(i: number): Promise<void> {
    const { file } = readable[i];
    const partner = readable[(i + farStep(readable.length)) % readable.length].file;
    if (partner === file) return;
    const back = relation.partners[partner];
    if (back?.file === file) {
      relation.partners[file] = { file: partner, homography: invertHomography(back.homography) };
      return;
    }
    const [a, b] = [await load(file), await load(partner)];
    const result = layOn(a.lay, b.lay);
    await turn(signal);
    if (!('laid' in result)) return;
    relation.partners[file] = { file: partner, homography: result.laid.homography };
    if (isBare) addPair(file, partner, result.laid, a, b);
  }

  function addPair(first: string, second: string, { blocks, ...laid }: Laid, a: Loaded, b: Loaded): void {
    relation.pairs.push({ first, second, laid, map: ratioMap(a.view, b.view, { ...laid, blocks }) });
  }
}

/** The step nearest to half of a row from its other side, by which one comes to all of it. */
function farStep(count: number): number {
  const divides = (a: number, b: number): number => (b === 0 ? a : divides(b, a % b));
  for (let step = count >> 1; step > 1; step--) if (divides(count, step) === 1) return step;
  return 1;
}

function sameSize(a: Loaded, b: Loaded): boolean {
  return a.view.width === b.view.width && a.view.height === b.view.height;
}

/** Others want their turn: a heartbeat, a stop. */
async function turn(signal?: AbortSignal): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, 0));
  signal?.throwIfAborted();
}

/** The pictures of a take that look most like one, a few of them. */
async function likeliest(
  shot: Shot,
  { lay }: Loaded,
  own: readonly Shot[],
  others: readonly Shot[],
  load: (file: string) => Promise<Loaded>,
): Promise<Shot[]> {
  const share = own.length > 1 ? own.indexOf(shot) / (own.length - 1) : 0.5;
  const rated = [];
  for (const [i, other] of others.entries()) {
    const loaded = await load(other.file);
    // Of equals the one at the same share of its take: each has a partner of its own.
    const place = others.length > 1 ? i / (others.length - 1) : 0.5;
    rated.push({ other, like: likeness(lay, loaded.lay) - 0.02 * Math.abs(place - share) });
  }
  return rated
    .sort((a, b) => b.like - a.like)
    .slice(0, TRIES)
    .map(({ other }) => other);
}

/** Correlation of local contrast in the coarse, at the best shift, less for a far one: it leaves less in common. */
function likeness(first: LayView, second: LayView): number {
  const [a, b] = [first.levels.at(-1), second.levels.at(-1)];
  if (!a || !b || a.width !== b.width || a.height !== b.height) return -1;
  const { width, height } = a;
  const [reachX, reachY] = [Math.floor(width / 4), Math.floor(height / 4)];
  let best = -1;
  for (let dy = -reachY; dy <= reachY; dy += 2)
    for (let dx = -reachX; dx <= reachX; dx += 2) {
      let [aa, bb, ab] = [0, 0, 0];
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y += 2)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x += 2) {
          const [p, q] = [a.data[y * width + x], b.data[(y + dy) * width + x + dx]];
          aa += p * p;
          bb += q * q;
          ab += p * q;
        }
      const like =
        aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) - 0.3 * (Math.abs(dx) / width + Math.abs(dy) / height) : -1;
      if (like > best) best = like;
    }
  return best;
}

interface On {
  file: string;
  homography: Homography;
}

/** Textured places of a picture that a bare one shows too, and where they are there. */
function sharedSpots({ view }: Loaded, { homography }: On) {
  const spots = spotsOf(view, (spot) => {
    const [u, v] = applyHomography(homography, ...spot);
    return Math.abs(u) < 0.95 && Math.abs(v) < (0.95 * view.height) / view.width;
  });
  return { spots, there: spots.map((spot) => applyHomography(homography, ...spot)) };
}

/** How a picture's sharpness falls against bare's, by bare pictures of two takes: no two of the three share noise or a codec's copies. */
async function fallAcross(
  first: Loaded,
  on: On,
  other: On,
  load: (file: string) => Promise<Loaded>,
): Promise<Fall | null> {
  const [before, after] = [await load(on.file), await load(other.file)];
  const { spots, there } = sharedSpots(first, on);
  const between = composeHomographies(other.homography, invertHomography(on.homography));
  return fallBetween(
    commonSpectra(
      tileSpectra(first.view, before.view, on.homography, spots),
      tileSpectra(first.view, after.view, other.homography, spots),
    ),
    tileSpectra(before.view, after.view, between, there),
    1,
  );
}

/** How a picture's sharpness falls against the bare one's that it was laid on: both through a partner of their own take. */
async function fallOf(
  first: Loaded,
  partner: On | undefined,
  on: On,
  barePartner: On | undefined,
  load: (file: string) => Promise<Loaded>,
): Promise<Fall | null> {
  if (!partner || !barePartner) return null;
  const second = await load(partner.file);
  const [bare, bareSecond] = [await load(on.file), await load(barePartner.file)];
  const { spots, there } = sharedSpots(first, on);
  return fallBetween(
    tileSpectra(first.view, second.view, partner.homography, spots),
    tileSpectra(bare.view, bareSecond.view, barePartner.homography, there),
  );
}

function sceneOf(
  patch: Patch,
  seen: readonly Seen[],
  relations: ReadonlyMap<string, Relation>,
  session: Session,
  faults: FoundFault[],
): OrdinaryScene {
  const times = timesOf(seen);
  const usesAperture = apertureCounts(seen, session);
  const missing = new Set<string>();
  const pictures = seen.map((shot, i): OrdinaryPicture => {
    const { take, file, facts, seconds } = shot;
    const relation = relations.get(take.id)!;
    const exposure = exposureOf(shot, session, usesAperture);
    if (typeof exposure === 'string' && !missing.has(take.id)) {
      missing.add(take.id);
      const words: Fault = fault('exposure-missing', 'error', [take.id], `${take.id}: ${exposure}.`);
      faults.push({ filter: take.filter, fault: words });
    }
    return {
      take: take.id,
      file,
      filter: take.filter,
      seconds,
      timeMs: times[i],
      exposureLog2: typeof exposure === 'number' ? exposure : NaN,
      whiteBalance: { said: take.whiteBalance ?? null, own: facts.whiteBalance },
      ...relation.stats[file],
      ...(relation.falls[file] ? { fall: relation.falls[file] } : {}),
    };
  });
  const placeOf = new Map(pictures.map(({ file }, i) => [file, i]));
  const pairs = [...relations.values()].flatMap((relation) =>
    relation.pairs.map(({ first, second, laid, map }): OrdinaryPair => ({
      first: placeOf.get(first)!,
      second: placeOf.get(second)!,
      homography: laid.homography,
      agreement: laid.agreement,
      errorPx: laid.errorPx,
      map,
    })),
  );
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
