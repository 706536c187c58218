/**
 * Laying files on takes: every file gets a score for every place it could belong to, from what its name says, how bright it is at its
 * exposure, when it was taken, what it shows and where it stands in the row. Sure ones are laid, the rest are questions.
 */
import {
  bareLevels,
  levelOf,
  ofExposure,
  offFrom,
  ofName,
  ofStrength,
  ofView,
  scenesViews,
  type Levels,
} from './evidence';
import {
  inRow,
  type Candidate,
  type Evidence,
  type FileToLay,
  type KnownFile,
  type LaidFile,
  type Laying,
  type Spot,
} from './laidFile';
import { againstLog, clockOffset, ofTime } from './cameraClock';
import { readName, type NamedFilter, type SaidByName } from './names';

/** A candidate is taken without asking from this score on, and this far ahead of the next. */
const SURE_SCORE = 2.5;
const SURE_MARGIN = 2;
/** What the row of a whole card says of a planned take. */
const PLAN_ORDER = 3;
const MOST_CANDIDATES = 5;
/** Places this far behind the best are not offered. */
const UNLIKELY = 7;

/**
 * Lays files on places; nothing is laid twice, several files may share a place (repeats).
 *
 * @param known files that lie on their takes already
 * @param byOrder by file the place that the row of a plan gives it
 */
export function layFiles(
  files: readonly FileToLay[],
  places: readonly Spot[],
  filters: readonly NamedFilter[],
  known: readonly KnownFile[] = [],
  byOrder: readonly (string | null)[] = [],
): Laying {
  const said = files.map((file) => readName(file.path, filters));
  const offset = clockOffset(files, said, places);
  const bare = bareLevels(files, said, places, known);
  const views = scenesViews(files, said, places, known);
  const scored = files.map((file, i) => {
    const candidates = places.map((place) => {
      const evidence = [
        { score: place.prior ?? 0, words: '' },
        ...ofName(said[i], place, filters),
        ...ofStrength(file, said[i], place, filters, bare),
        ...ofExposure(file, place),
        ...ofTime(file, place, offset),
        ...ofView(file, place, views),
        ...(byOrder[i] === place.id ? [{ score: PLAN_ORDER, words: 'it stands here in the plan’s order' }] : []),
      ];
      return { place, evidence };
    });
    return { file, said: said[i], candidates };
  });
  const judged = scored.map(({ file, candidates }) => judge(file, candidates));
  const contradictions = scored.map(({ file, said: own }, i) =>
    againstLog(file, own, judged[i], places, filters, offset),
  );
  const first = judged.map((one, i) => contradictions[i] ?? one);
  // Neighbors in the row help where the rest leaves it open.
  const rows = inRow(files);
  const order = new Map(places.map((place, i) => [place.id, i]));
  const laid = scored.map(({ file, candidates }, i) => {
    if (first[i].sure || contradictions[i]) return first[i];
    const near = neighbors(rows, i, (j) => first[j].sure);
    return judge(
      file,
      candidates.map(({ place, evidence }) => ({
        place,
        evidence: [...evidence, ...ofRow(place, near, first, order)],
      })),
    );
  });
  return {
    files: exchanged(laid, scored, places, filters, bare),
    clockOffsetSeconds: offset === null ? null : offset / 1000,
  };
}

function judge(file: FileToLay, candidates: { place: Spot; evidence: Evidence[] }[]): LaidFile {
  const ranked = candidates
    .map(({ place, evidence }): Candidate => ({
      place: place.id,
      score: evidence.reduce((sum, one) => sum + one.score, 0),
      reasons: [...evidence]
        .sort((a, b) => Math.abs(b.score) - Math.abs(a.score))
        .map((one) => one.words)
        .filter(Boolean),
    }))
    .sort((a, b) => b.score - a.score);
  const [best, second] = ranked;
  const sure =
    best !== undefined && best.score >= SURE_SCORE && best.score - (second?.score ?? -Infinity) >= SURE_MARGIN;
  const doubt = sure ? '' : doubtOf(best, second);
  const likely = ranked.filter((one) => one.score > best.score - UNLIKELY).slice(0, MOST_CANDIDATES);
  return { path: file.path, place: best?.place ?? null, sure, doubt, candidates: likely };
}

function doubtOf(best: Candidate | undefined, second: Candidate | undefined): string {
  if (!best) return 'There is no take that it could belong to.';
  if (best.score < SURE_SCORE && best.score - (second?.score ?? 0) < 0.5)
    return 'Nothing about it tells where it belongs.';
  if (second && best.score - second.score < SURE_MARGIN && best.score >= SURE_SCORE)
    return 'Two places fit about equally well.';
  return 'Not sure: which filter is this?';
}

function neighbors(
  row: readonly number[],
  file: number,
  known: (file: number) => boolean,
): [number | null, number | null] {
  const at = row.indexOf(file);
  const before = row.slice(0, at).reverse().find(known);
  const after = row.slice(at + 1).find(known);
  return [before ?? null, after ?? null];
}

function ofRow(
  place: Spot,
  [before, after]: [number | null, number | null],
  laid: readonly LaidFile[],
  order: ReadonlyMap<string, number>,
): Evidence[] {
  if (before === null || after === null) return [];
  const [from, to] = [order.get(laid[before].place!)!, order.get(laid[after].place!)!];
  const here = order.get(place.id)!;
  if (from === to) return here === from ? [{ score: 2, words: 'both its neighbors in the row are of this take' }] : [];
  if (from > to || here < from || here > to) return [];
  return [{ score: 1, words: 'it stands between its neighbors in the row' }];
}

/**
 * Two files that each look like the other's filter were exchanged, on the lens or in their names: both are asked. One alone is what
 * a wrong label looks like, and is left to the verdict.
 */
function exchanged(
  laid: LaidFile[],
  scored: readonly { file: FileToLay; said: SaidByName }[],
  places: readonly Spot[],
  filters: readonly NamedFilter[],
  bare: Levels,
): LaidFile[] {
  const acts = laid.map((one, i) => {
    const place = places.find(({ id }) => id === one.place);
    const level = levelOf(scored[i].file);
    const reference = place && bare.get(place.scene);
    if (!one.sure || !place || place.bracket || place.filter === null || level === null || !reference?.sure)
      return null;
    const stops = reference.log2 - level;
    const own = offFrom(stops, place.filter, filters);
    if (own === null || own < 0.6) return null;
    const better = filters.filter((other) => (offFrom(stops, other.id, filters) ?? Infinity) < 0.4);
    return { scene: place.scene, own: place.filter, better: better.map((other) => other.id), stops };
  });
  return laid.map((one, i) => {
    const here = acts[i];
    if (!here) return one;
    const partner = acts.findIndex(
      (there) =>
        there && there.scene === here.scene && there.better.includes(here.own) && here.better.includes(there.own),
    );
    if (partner < 0) return one;
    const doubt = `It is ${here.stops.toFixed(1)} stops darker than bare, as its exchange with ${laid[partner].path} would have it.`;
    return { ...one, sure: false, doubt };
  });
}
