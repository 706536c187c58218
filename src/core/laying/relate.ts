/** Lays the pictures of a take on each other and on those of other takes, and keeps what each pair tells. */
import { meanFall } from '../measures/sharpness/fall';
import { ratioMap } from './ratioMap';
import { invertHomography } from '../formulas/geometry/homography';
import { layOn, type Laid } from './lay';
import { UnreadablePicture } from '../reading/facts';
import type { Shot } from '../reading/shots';
import { likeliest } from './candidates';
import { fallAcross, fallOf } from '../measures/sharpness/fallsOfPictures';
import type { Loaded, On, Relation, Views } from './ordinaryTypes';

/** Pictures of a take of which none could be laid on anything: the rest is tried on fewer. */
const LOST_AFTER = 2;

/** What is being found of a take, and what that needs. */
interface Relating {
  relation: Relation;
  own: readonly Shot[];
  /** The take's pictures in the order of {@link roundOf}. */
  round: readonly Shot[];
  isBare: boolean;
  views: Views;
  signal?: AbortSignal;
}

/**
 * Lays the pictures of a take on each other and on those of other takes, in the order of {@link roundOf}. Drops each filtered picture once
 * nothing needs it, to bound memory: of 4K pictures no more are held than are needed.
 */
export async function relate(
  own: readonly Shot[],
  against: readonly (readonly Shot[])[],
  relations: ReadonlyMap<string, Relation>,
  views: Views,
  signal?: AbortSignal,
): Promise<Relation> {
  const relation: Relation = { facts: {}, stats: {}, pairs: [], partners: {}, falls: {}, unpaired: [], unreadable: [] };
  const isBare = own[0]?.take.filter === null;
  const round = roundOf(own);
  const relating: Relating = { relation, own, round, isBare, views, signal };
  let past: string | null = null;
  let isFirst = true;
  for (const [i, shot] of round.entries()) {
    if (past !== null) views.drop([past]);
    past = null;
    if (!(await isReadable(relating, shot))) continue;
    // The last one's partner is the first.
    if (!isBare && !isFirst) past = shot.file;
    isFirst = false;
    const first = await views.load(shot.file);
    if (isBare) await findPartner(relating, i);
    const laidOn = await layOnOthers(relating, shot, first, against);
    if (isBare || laidOn.length === 0) continue;
    const barePartner = relations.get(laidOn[0].take)?.partners[laidOn[0].file];
    await findPartner(relating, i);
    await keepFall(relating, shot, first, laidOn, barePartner);
    await turn(signal);
  }
  return relation;
}

/** Whether a picture can be read; what is seen of it is noted once. */
async function isReadable({ relation, views, signal }: Relating, { file }: Shot): Promise<boolean> {
  if (relation.facts[file]) return true;
  if (relation.unreadable.some((one) => one.file === file)) return false;
  signal?.throwIfAborted();
  try {
    const { facts, view } = await views.load(file);
    relation.facts[file] = facts;
    relation.stats[file] = { meanCode: view.meanCode };
    return true;
  } catch (error) {
    if (!(error instanceof UnreadablePicture)) throw error;
    relation.unreadable.push({ file, words: error.reason });
    return false;
  }
}

/** Lays a picture on the likeliest of each other take; a picture that lies on none is noted with what was tried. */
async function layOnOthers(
  { relation, own, views, signal }: Relating,
  shot: Shot,
  first: Loaded,
  against: readonly (readonly Shot[])[],
): Promise<LaidOn[]> {
  const laidOn: LaidOn[] = [];
  let words: string | null = null;
  let tried: string | null = null;
  const tries = relation.pairs.length === 0 && relation.unpaired.length >= LOST_AFTER ? 1 : Infinity;
  for (const others of against) {
    const candidates = await likeliest(shot, first, own, others, views.load);
    for (const { file, take } of candidates.slice(0, tries)) {
      const second = await views.load(file);
      const result = sameSize(first, second)
        ? layOn(first.lay, second.lay)
        : { words: 'the pictures are of different sizes' };
      await turn(signal);
      if (!('laid' in result)) {
        words ??= result.words;
        tried ??= file;
        continue;
      }
      relation.pairs.push(pairOf(shot.file, file, result.laid, first, second));
      laidOn.push({ file, take: take.id, homography: result.laid.homography });
      break;
    }
  }
  if (laidOn.length === 0 && words !== null && tried !== null)
    relation.unpaired.push({ take: shot.take.id, file: shot.file, seconds: shot.seconds, tried, words });
  return laidOn;
}

/** A picture of another take that one was laid on. */
type LaidOn = On & { take: string };

/** Keeps how a filtered picture's sharpness falls against bare's, by the ways that its pictures allow. */
async function keepFall(
  { relation, views }: Relating,
  shot: Shot,
  first: Loaded,
  [on, other]: readonly LaidOn[],
  barePartner: On | undefined,
): Promise<void> {
  const within = await fallOf(first, relation.partners[shot.file], on, barePartner, views.load);
  // Stills share no noise, and those of one take show the same moment. Frames of one clip share what its codec copied, those of other
  // clips another moment: both ways are asked, and err to other sides.
  const across = other && (shot.seconds !== null || !within) ? await fallAcross(first, on, other, views.load) : null;
  const fall = within && across ? meanFall(within, across) : (within ?? across);
  if (fall) relation.falls[shot.file] = fall;
}

/** Lays a picture on the next of the round that can be read. */
async function findPartner(relating: Relating, i: number): Promise<void> {
  const { relation, round, isBare, views, signal } = relating;
  const { file } = round[i];
  let next = (i + 1) % round.length;
  while (!(await isReadable(relating, round[next]))) next = (next + 1) % round.length;
  const partner = round[next].file;
  if (partner === file) return;
  const back = relation.partners[partner];
  if (back?.file === file) {
    relation.partners[file] = { file: partner, homography: invertHomography(back.homography) };
    return;
  }
  const [a, b] = [await views.load(file), await views.load(partner)];
  const result = layOn(a.lay, b.lay);
  await turn(signal);
  if (!('laid' in result)) return;
  relation.partners[file] = { file: partner, homography: result.laid.homography };
  if (isBare) relation.pairs.push(pairOf(file, partner, result.laid, a, b));
}

function pairOf(
  first: string,
  second: string,
  { blocks, ...laid }: Laid,
  a: Loaded,
  b: Loaded,
): Relation['pairs'][number] {
  return { first, second, laid, map: ratioMap(a.view, b.view, { ...laid, blocks }) };
}

/**
 * The pictures of a take in the order in which each is laid on the next one, and the last on the first. Frames near each other share noise
 * that the codec copied from one to the next: partners lie as far apart as the take allows, and lead round all of it.
 */
export function roundOf<T>(own: readonly T[]): T[] {
  const step = farStep(own.length);
  return own.map((_, i) => own[(i * step) % own.length]);
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
