/** Lays the pictures of a take on each other and on those of other takes, and keeps what each pair tells. */
import { meanFall } from '../measures/sharpness/fall';
import { ratioMap } from './ratioMap';
import { invertHomography, type Homography } from '../formulas/geometry/homography';
import { layOn, type Laid } from './lay';
import { UnreadablePicture } from '../reading/facts';
import type { Shot } from '../reading/shots';
import { likeliest } from './candidates';
import { fallAcross, fallOf } from '../measures/sharpness/fallsOfPictures';
import type { Loaded, Relation, Views } from './ordinaryTypes';

/** Pictures of a take of which none could be laid on anything: the rest is tried on fewer. */
const LOST_AFTER = 2;

/**
 * Lays the pictures of a take on each other and on those of other takes, in the order of {@link roundOf}. What is done with of a filter's
 * take is dropped: of 4K pictures no more are held than are needed.
 */
export async function relate(
  own: readonly Shot[],
  against: readonly (readonly Shot[])[],
  relations: ReadonlyMap<string, Relation>,
  { load, drop }: Views,
  signal?: AbortSignal,
): Promise<Relation> {
  const relation: Relation = { facts: {}, stats: {}, pairs: [], partners: {}, falls: {}, unpaired: [], unreadable: [] };
  const isBare = own[0]?.take.filter === null;
  const round = roundOf(own);
  let past: string | null = null;
  let isFirst = true;
  for (const [i, shot] of round.entries()) {
    if (past !== null) drop([past]);
    past = null;
    if (!(await isReadable(shot))) continue;
    // The last one's partner is the first.
    if (!isBare && !isFirst) past = shot.file;
    isFirst = false;
    const first = await load(shot.file);
    if (isBare) await findPartner(i);
    let words: string | null = null;
    let tried: string | null = null;
    const laidOn: { file: string; take: string; homography: Homography }[] = [];
    const tries = relation.pairs.length === 0 && relation.unpaired.length >= LOST_AFTER ? 1 : Infinity;
    for (const others of against) {
      const candidates = await likeliest(shot, first, own, others, load);
      for (const { file, take } of candidates.slice(0, tries)) {
        const second = await load(file);
        const result = sameSize(first, second)
          ? layOn(first.lay, second.lay)
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
    await findPartner(i);
    const within = await fallOf(first, relation.partners[shot.file], on, barePartner, load);
    // Stills share no noise, and those of one take show the same moment. Frames of one clip share what its codec copied, those of other
    // clips another moment: both ways are asked, and err to other sides.
    const across = other && (shot.seconds !== null || !within) ? await fallAcross(first, on, other, load) : null;
    const fall = within && across ? meanFall(within, across) : (within ?? across);
    if (fall) relation.falls[shot.file] = fall;
    await turn(signal);
  }
  return relation;

  /** Whether a picture can be read; what is seen of it is noted once. */
  async function isReadable({ file }: Shot): Promise<boolean> {
    if (relation.facts[file]) return true;
    if (relation.unreadable.some((one) => one.file === file)) return false;
    signal?.throwIfAborted();
    try {
      const { facts, view } = await load(file);
      relation.facts[file] = facts;
      relation.stats[file] = { meanCode: view.meanCode };
      return true;
    } catch (error) {
      if (!(error instanceof UnreadablePicture)) throw error;
      relation.unreadable.push({ file, words: error.reason });
      return false;
    }
  }

  /** Lays a picture on the next of the round that can be read. */
  async function findPartner(i: number): Promise<void> {
    const { file } = round[i];
    let next = (i + 1) % round.length;
    while (!(await isReadable(round[next]))) next = (next + 1) % round.length;
    const partner = round[next].file;
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
