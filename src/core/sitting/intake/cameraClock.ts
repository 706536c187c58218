/** Times against the log: the camera's clock, how far a file is from a take, names that contradict the log. */
import { median } from '../../formulas/statistics/averages';
import type { Evidence, FileToLay, LaidFile, Laying, Spot } from './laidFile';
import type { NamedFilter, SaidByName } from './names';

/** A take's time against its log, seconds. */
const TIME_SIGMA = 40;
/** Clocks that differ by more are told. */
const CLOCK_TOLD_SECONDS = 90;
/** Clocks are set once: offsets that spread by more than this aren't one offset, seconds. */
const CLOCK_SPREAD = 120;
/** A file this near to a take of another filter, and this much nearer than to its own, contradicts its name; seconds. */
const NEAR_LOG = 30;
const NEARER = 20;

/** Whether a difference of clocks is worth a sentence. */
export function clockIsOff({ clockOffsetSeconds }: Laying): boolean {
  return clockOffsetSeconds !== null && Math.abs(clockOffsetSeconds) > CLOCK_TOLD_SECONDS;
}

/**
 * The camera's clock against the log's, milliseconds: the offset at which most files whose filter their names tell meet a take of that
 * filter; without such names, the offset at which most files meet any take.
 */
export function clockOffset(
  files: readonly FileToLay[],
  said: readonly SaidByName[],
  places: readonly Spot[],
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

/** What the time of a file says of a place. */
export function ofTime(file: FileToLay, place: Spot, offset: number | null): Evidence[] {
  if (file.capturedAt === null || place.at === undefined || place.at === null) return [];
  const apart = (Date.parse(file.capturedAt) - place.at - (offset ?? 0)) / 1000;
  const score = 2.5 - Math.min(6, apart ** 2 / (2 * TIME_SIGMA ** 2));
  return [{ score, words: `it was taken ${duration(Math.abs(apart))} from the log’s time` }];
}

/** A name that says one filter at a moment when the log has another one is asked, however well the name fits: the question, or `null`. */
export function againstLog(
  file: FileToLay,
  said: SaidByName,
  laid: LaidFile,
  places: readonly Spot[],
  filters: readonly NamedFilter[],
  offset: number | null,
): LaidFile | null {
  if (said.filter === undefined || file.capturedAt === null) return null;
  const taken = Date.parse(file.capturedAt) - (offset ?? 0);
  const nearest = (which: (place: Spot) => boolean) =>
    places
      .filter((place) => typeof place.at === 'number' && which(place))
      .map((place) => ({ place, apart: Math.abs(taken - place.at!) / 1000 }))
      .sort((a, b) => a.apart - b.apart)[0];
  const [own, other] = [
    nearest((place) => place.filter === said.filter),
    nearest((place) => place.filter !== said.filter),
  ];
  if (!other || other.apart > NEAR_LOG || (own && own.apart < other.apart + NEARER)) return null;
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
    doubt: `Its name says ${name(said.filter)}, the log has ${name(other.place.filter)} at its time.`,
    candidates: [best, logged, ...rest].filter(Boolean),
  };
}

/** Seconds as people say them: `12 s`, `3 min`, `1 h 2 min`, `532 days 17 h`. */
export function duration(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 100) return `${whole} s`;
  const minutes = Math.round(whole / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48) return `${hours} h${minutes % 60 > 0 ? ` ${minutes % 60} min` : ''}`;
  const rest = Math.round((minutes % (24 * 60)) / 60) % 24;
  return `${Math.round((minutes / 60 - rest) / 24)} days${rest > 0 ? ` ${rest} h` : ''}`;
}
