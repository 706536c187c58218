/**
 * Laying files on takes: every file gets a score for every place it could belong to, from what its name says, how bright it is at its
 * exposure, when it was taken, what it shows and where it stands in the row. Sure ones are laid, the rest are questions.
 */
import { median } from '../numbers';
import { isEven, likeness, type Look } from '../look';
import { nominalStops } from '../labels';
import { readName, type NamedFilter, type SaidByName } from './names';

export interface FileToLay {
  path: string;
  /** ISO 8601, where the file knows it. */
  capturedAt: string | null;
  /** log2 of t·ISO/N², where it is known. */
  exposureLog2: number | null;
  /** log2 of the picture's mean luminance. */
  lightLog2: number | null;
  look: Look | null;
}

/** A take, or a filter on a scene, that files may belong to. */
export interface Place {
  id: string;
  filter: string | null;
  scene: string;
  kind: string;
  bracket?: boolean;
  /** As planned or logged. */
  exposureLog2?: number | null;
  /** Of the log, milliseconds. */
  at?: number | null;
  ringDegrees?: number;
  mark?: number;
  /** Score it has before anything is known: below 0 for what is seldom meant. */
  prior?: number;
}

export interface Candidate {
  place: string;
  score: number;
  /** What speaks for it and against it, strongest first, parts of sentences. */
  reasons: string[];
}

export interface LaidFile {
  path: string;
  /** Where it is laid; the likeliest place where it is not sure. */
  place: string | null;
  sure: boolean;
  /** Why it is asked, a sentence; empty where it is sure. */
  doubt: string;
  /** The likeliest places, best first. */
  candidates: Candidate[];
}

export interface Laying {
  files: LaidFile[];
  /** The camera's clock minus the log's, seconds, where both are known and agree among the files. */
  clockOffsetSeconds: number | null;
}

/** A candidate is taken without asking from this score on, and this far ahead of the next. */
const SURE_SCORE = 2.5;
const SURE_MARGIN = 2;
const MOST_CANDIDATES = 5;
/** Places this far behind the best are not offered. */
const UNLIKELY = 7;
/** Labels lie and lights drift: what a filter's strength may differ by, stops. */
const STRENGTH_SIGMA = 0.45;
/** A camera's exposure against the plan's, stops: marks are rounded. */
const EXPOSURE_SIGMA = 0.2;
/** A take's time against its log, seconds. */
const TIME_SIGMA = 40;
/** Clocks that differ by more are told. */
const CLOCK_TOLD_SECONDS = 90;
/** Clocks are set once: offsets that spread by more than this aren't one offset, seconds. */
const CLOCK_SPREAD = 120;

/** A file whose place is known: it tells how bright bare is, and what a scene looks like. */
export interface KnownFile extends FileToLay {
  filter: string | null;
  scene: string;
}

interface Evidence {
  score: number;
  words: string;
}

/**
 * Lays files on places; nothing is laid twice, several files may share a place (repeats).
 *
 * @param known files that lie on their takes already
 */
export function layFiles(
  files: readonly FileToLay[],
  places: readonly Place[],
  filters: readonly NamedFilter[],
  known: readonly KnownFile[] = [],
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
      ];
      return { place, evidence };
    });
    return { file, said: said[i], candidates };
  });
  const first = scored.map(({ file, said, candidates }) =>
    againstLog(file, said, judge(file, candidates), places, filters, offset),
  );
  // Neighbors in the row help where the rest leaves it open.
  const rows = inRow(files);
  const order = new Map(places.map((place, i) => [place.id, i]));
  const laid = scored.map(({ file, candidates }, i) => {
    if (first[i].sure || first[i].doubt.startsWith(CONTRADICTION)) return first[i];
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

/** Whether a difference of clocks is worth a sentence. */
export function clockIsOff({ clockOffsetSeconds }: Laying): boolean {
  return clockOffsetSeconds !== null && Math.abs(clockOffsetSeconds) > CLOCK_TOLD_SECONDS;
}

function judge(file: FileToLay, candidates: { place: Place; evidence: Evidence[] }[]): LaidFile {
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

const CONTRADICTION = 'Its name says';
/** A file this near to a take of another filter, and this much nearer than to its own, contradicts its name; seconds. */
const NEAR_LOG = 30;
const NEARER = 20;

/** A name that says one filter at a moment when the log has another one is asked, however well the name fits. */
function againstLog(
  file: FileToLay,
  said: SaidByName,
  laid: LaidFile,
  places: readonly Place[],
  filters: readonly NamedFilter[],
  offset: number | null,
): LaidFile {
  if (said.filter === undefined || file.capturedAt === null) return laid;
  const taken = Date.parse(file.capturedAt) - (offset ?? 0);
  const nearest = (which: (place: Place) => boolean) =>
    places
      .filter((place) => typeof place.at === 'number' && which(place))
      .map((place) => ({ place, apart: Math.abs(taken - place.at!) / 1000 }))
      .sort((a, b) => a.apart - b.apart)[0];
  const [own, other] = [
    nearest((place) => place.filter === said.filter),
    nearest((place) => place.filter !== said.filter),
  ];
  if (!other || other.apart > NEAR_LOG || (own && own.apart < other.apart + NEARER)) return laid;
  const name = (id: string | null) => (id === null ? 'bare' : (filters.find((one) => one.id === id)?.name ?? id));
  const logged = laid.candidates.find((one) => one.place === other.place.id) ?? {
    place: other.place.id,
    score: 0,
    reasons: [`it was taken ${duration(other.apart)} from the log’s time`],
  };
  const [best, ...rest] = laid.candidates.filter((one) => one !== logged);
  return {
    ...laid,
    sure: false,
    doubt: `${CONTRADICTION} ${name(said.filter)}, the log has ${name(other.place.filter)} at its time.`,
    candidates: [best, logged, ...rest].filter(Boolean).slice(0, MOST_CANDIDATES),
  };
}

function doubtOf(best: Candidate | undefined, second: Candidate | undefined): string {
  if (!best) return 'There is no take that it could belong to.';
  if (best.score < SURE_SCORE && best.score - (second?.score ?? 0) < 0.5)
    return 'Nothing about it tells where it belongs.';
  if (second && best.score - second.score < SURE_MARGIN && best.score >= SURE_SCORE)
    return 'Two places fit about equally well.';
  return 'Too little speaks for any place.';
}

function ofName(said: SaidByName, place: Place, filters: readonly NamedFilter[]): Evidence[] {
  const found: Evidence[] = [];
  if (said.filter !== undefined) {
    const same = said.filter === place.filter;
    const name = said.filter === null ? 'bare' : (filters.find((one) => one.id === said.filter)?.name ?? said.filter);
    found.push({ score: same ? 5 : -5, words: `its name says ${name}` });
  }
  if (said.scene !== null)
    found.push({ score: said.scene === place.kind ? 3 : -3, words: `its name speaks of ${said.scene}` });
  if (said.bracket || place.bracket) {
    const same = said.bracket === (place.bracket ?? false);
    found.push({
      score: same ? 3 : -3,
      words: said.bracket ? 'its name speaks of a bracket' : 'its name doesn’t speak of the bracket',
    });
  }
  if (said.ringDegrees !== null && place.ringDegrees !== undefined) {
    const apart = Math.abs(((said.ringDegrees - place.ringDegrees + 540) % 360) - 180);
    found.push({ score: apart < 1 ? 3 : -3, words: `its name says ${said.ringDegrees}°` });
  }
  if (said.mark !== null && place.mark !== undefined)
    found.push({ score: said.mark === place.mark ? 3 : -3, words: `its name says mark ${said.mark}` });
  return found;
}

/** log2 of bare light at exposure 1, by scene. */
type Levels = ReadonlyMap<string, { log2: number; sure: boolean }>;

const levelOf = ({ lightLog2, exposureLog2 }: FileToLay) =>
  lightLog2 === null || exposureLog2 === null ? null : lightLog2 - exposureLog2;

/** What bare pictures show at exposure 1; where none is known by its name, the brightest for its exposure stands in. */
function bareLevels(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Place[],
  known: readonly KnownFile[],
): Levels {
  const levels = new Map<string, { log2: number; sure: boolean }>();
  for (const { scene, kind } of places) {
    if (levels.has(scene)) continue;
    const here = files.flatMap((file, i) => {
      const level = levelOf(file);
      return level !== null && fits(file, said[i], kind) ? [{ level, said: said[i] }] : [];
    });
    const named = [
      ...known.flatMap((one) => (one.scene === scene && one.filter === null ? (levelOf(one) ?? []) : [])),
      ...here.filter((one) => one.said.filter === null).map((one) => one.level),
    ];
    if (named.length > 0) levels.set(scene, { log2: median(named), sure: true });
    else if (here.length > 1) levels.set(scene, { log2: Math.max(...here.map((one) => one.level)), sure: false });
  }
  return levels;
}

/** Whether a file may show a kind of scene, by its name, else by whether it is even. */
function fits(file: FileToLay, said: SaidByName, kind: string): boolean {
  if (said.scene !== null) return said.scene === kind;
  return file.look === null || isEven(file.look) === (kind === 'flat');
}

function ofStrength(
  file: FileToLay,
  said: SaidByName,
  place: Place,
  filters: readonly NamedFilter[],
  bare: Levels,
): Evidence[] {
  const level = levelOf(file);
  const reference = bare.get(place.scene);
  if (level === null || !reference || said.bracket || place.bracket) return [];
  const stops = reference.log2 - level;
  const off = offFrom(stops, place.filter, filters);
  if (off === null) return [];
  const score = 1.5 - Math.min(4, off ** 2 / (2 * STRENGTH_SIGMA ** 2));
  const size = Math.abs(stops).toFixed(1);
  const words = `at its exposure it is ${size} stops ${stops < 0 ? 'brighter' : 'darker'} than ${reference.sure ? 'bare' : 'the brightest'}`;
  return [{ score: reference.sure ? score : score / 1.5, words }];
}

/** How far a strength is from a filter's label; `null` where the label promises nothing that could be compared. */
function offFrom(stops: number, filterId: string | null, filters: readonly NamedFilter[]): number | null {
  if (filterId === null) return Math.abs(stops);
  const filter = filters.find((one) => one.id === filterId);
  if (!filter || filter.kind === 'graduated-nd') return null;
  const { stopsRange } = filter.nominal;
  if (stopsRange) return Math.max(0, stopsRange[0] - stops, stops - stopsRange[1]);
  const nominal = nominalStops(filter.nominal);
  return nominal === null ? null : Math.abs(stops - nominal);
}

function ofExposure(file: FileToLay, place: Place): Evidence[] {
  if (file.exposureLog2 === null || place.exposureLog2 === undefined || place.exposureLog2 === null) return [];
  const apart = file.exposureLog2 - place.exposureLog2;
  const score = 1.5 - Math.min(4.5, apart ** 2 / (2 * EXPOSURE_SIGMA ** 2));
  const words =
    Math.abs(apart) < 0.15
      ? 'its exposure is the take’s'
      : `its exposure is ${Math.abs(apart).toFixed(1)} stops off the take’s`;
  return [{ score, words }];
}

function ofTime(file: FileToLay, place: Place, offset: number | null): Evidence[] {
  if (file.capturedAt === null || place.at === undefined || place.at === null) return [];
  const apart = (Date.parse(file.capturedAt) - place.at - (offset ?? 0)) / 1000;
  const score = 2.5 - Math.min(6, apart ** 2 / (2 * TIME_SIGMA ** 2));
  return [{ score, words: `it was taken ${duration(Math.abs(apart))} from the log’s time` }];
}

/**
 * The camera's clock against the log's, milliseconds: the offset at which most files whose filter their names tell meet a take of that
 * filter; without such names, the offset at which most files meet any take.
 */
function clockOffset(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Place[],
): number | null {
  const offsets: number[] = [];
  files.forEach((file, i) => {
    if (file.capturedAt === null) return;
    const taken = Date.parse(file.capturedAt);
    for (const place of places)
      if (typeof place.at === 'number' && (said[i].filter === undefined || said[i].filter === place.filter))
        offsets.push(taken - place.at);
  });
  if (offsets.length === 0) return null;
  offsets.sort((a, b) => a - b);
  // Where the offsets lie closest; among equals the smallest, since clocks are more often right than wrong.
  let best = { from: 0, to: 0, count: 0, size: Infinity };
  for (let from = 0, to = 0; from < offsets.length; from++) {
    while (to < offsets.length && offsets[to] - offsets[from] <= CLOCK_SPREAD * 1000) to++;
    const size = Math.abs(offsets[(from + to - 1) >> 1]);
    if (to - from > best.count || (to - from === best.count && size < best.size))
      best = { from, to, count: to - from, size };
  }
  return best.count >= 2 ? median(offsets.slice(best.from, best.to)) : 0;
}

/** Looks of files whose scene their names tell, a scene each. */
function scenesViews(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Place[],
  known: readonly KnownFile[],
) {
  const views = new Map<string, Look>();
  for (const { scene, kind } of places) {
    const shows =
      known.find((one) => one.scene === scene && one.look && !isEven(one.look)) ??
      files.find((file, i) => file.look && said[i].scene === kind && !isEven(file.look));
    if (shows?.look) views.set(scene, shows.look);
  }
  return views;
}

function ofView(file: FileToLay, place: Place, views: ReadonlyMap<string, Look>): Evidence[] {
  if (!file.look) return [];
  const even = isEven(file.look);
  if (even || place.kind === 'flat') {
    const same = even === (place.kind === 'flat');
    return [{ score: same ? 2.5 : -2.5, words: even ? 'it shows an even surface' : 'it shows no even surface' }];
  }
  const view = views.get(place.scene);
  if (!view) return [];
  const alike = likeness(file.look, view);
  if (alike === null) return [];
  return [
    {
      score: alike > 0.85 ? 1.5 : -2,
      words: alike > 0.85 ? `it shows the ${place.scene}’s view` : 'it shows another view',
    },
  ];
}

/** Indexes in the order in which the files were taken: by time where all have one, else by their names as people count. */
function inRow(files: readonly FileToLay[]): number[] {
  const order = files.map((_, i) => i);
  return files.every((file) => file.capturedAt !== null)
    ? order.sort((a, b) => Date.parse(files[a].capturedAt!) - Date.parse(files[b].capturedAt!))
    : order.sort((a, b) => files[a].path.localeCompare(files[b].path, 'en', { numeric: true }));
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
  place: Place,
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
  places: readonly Place[],
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

/** Seconds as people say them: `12 s`, `3 min`, `1 h 2 min`. */
export function duration(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 100) return `${whole} s`;
  const minutes = Math.round(whole / 60);
  return minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h${minutes % 60 > 0 ? ` ${minutes % 60} min` : ''}`;
}
