/** Slips of the hand that a verdict shows: a shutter noted wrong by whole stops, two filters exchanged. Only asked, never put right by itself. */
import { parseShutter, writeShutter } from '../formulas/optics/exposure';
import { asTyped, type TakeEdit } from '../sitting/intake/typedTake';
import type { Readings } from '../session/readings';
import type { Filter, Session, Take } from '../session/schema';

export interface Slip {
  /** What may have happened, as a question. */
  question: string;
  /** What to press if it did. */
  answer: string;
  /** What is put right then. */
  edits: TakeEdit[];
}

/** How near to whole stops an error must lie, or within its ±: labels are seldom off by so round a figure. */
const NEAR_STOPS = 0.06;
/** A wider ± spans whole stops wherever the error lies: it says nothing of a slip. */
const WIDEST_U95 = 0.15;
/** Filters whose labels fit once they are exchanged lie as near to them. */
const FITS_STOPS = 0.25;
/** Filters off alike by which the bare pictures are suspected: this many, and most of the kit. */
const ALIKE = 2;

interface Off {
  filter: Filter;
  error: number;
  u95: number;
  nominal: number;
}

/** Questions that the figures of a session raise; none where nothing looks like a slip. */
export function slipsOf(session: Session, readings: Readings): Slip[] {
  const filters = new Map(session.kits.flatMap((kit) => kit.filters).map((filter) => [filter.id, filter]));
  const rated = readings.filters.flatMap(({ filter, density, nominalStops }): Off[] => {
    const known = filters.get(filter);
    if (!known || !density?.error || nominalStops === null || nominalStops === undefined) return [];
    return [{ filter: known, error: density.error.value, u95: density.error.u95, nominal: nominalStops }];
  });
  const exchanged = exchangedPairs(rated);
  const left = rated.filter((one) => !exchanged.flat().includes(one));
  const whole = left.filter((one) => wholeStops(one) !== 0);
  const swaps = exchanged.map((pair) => exchangeOf(session, pair));
  const [first] = whole;
  const isBare =
    whole.length >= ALIKE &&
    2 * whole.length > rated.length &&
    whole.every((one) => wholeStops(one) === wholeStops(first));
  if (isBare) return [...swaps, ...shutterOf(session, null, -wholeStops(first))];
  return [...swaps, ...whole.flatMap((one) => shutterOf(session, one.filter, wholeStops(one)))];
}

const nameOf = ({ name, id }: Filter) => name ?? id;

/** By how many whole stops a label is off; 0 where it isn't off by whole ones. */
function wholeStops({ error, u95 }: Off): number {
  const whole = Math.round(error);
  if (u95 > WIDEST_U95) return 0;
  return Math.abs(error - whole) <= Math.max(NEAR_STOPS, u95) ? whole : 0;
}

function exchangedPairs(rated: readonly Off[]): [Off, Off][] {
  const pairs: [Off, Off][] = [];
  for (const [i, a] of rated.entries())
    for (const b of rated.slice(i + 1)) {
      const [asA, asB] = [b.nominal + b.error - a.nominal, a.nominal + a.error - b.nominal];
      const isOff = Math.min(Math.abs(a.error), Math.abs(b.error)) > 2 * FITS_STOPS;
      if (
        isOff &&
        Math.max(Math.abs(asA), Math.abs(asB)) < FITS_STOPS &&
        !pairs.flat().some((one) => one === a || one === b)
      )
        pairs.push([a, b]);
    }
  return pairs;
}

const measured = ({ role }: Take) => role === 'measure';

function exchangeOf({ takes }: Session, [a, b]: [Off, Off]): Slip {
  const edits = takes.flatMap((take): TakeEdit[] => {
    const to = take.filter === a.filter.id ? b.filter.id : take.filter === b.filter.id ? a.filter.id : null;
    return to === null ? [] : [{ id: take.id, seen: { filter: take.filter }, to: { filter: to } }];
  });
  const [one, other] = [nameOf(a.filter), nameOf(b.filter)];
  return {
    question: `${one} and ${other} fit each other’s labels: were they exchanged?`,
    answer: 'Yes, exchange their takes',
    edits,
  };
}

/** @param stops by which the noted shutters are too long */
function shutterOf({ takes }: Session, filter: Filter | null, stops: number): Slip[] {
  const own = takes.filter((take) => measured(take) && take.filter === (filter?.id ?? null));
  const noted = own.map((take) => ({ take, seconds: parseShutter(take.exposure.shutter ?? '') }));
  // What the files say of themselves is no slip of a hand.
  if (noted.length === 0 || noted.some(({ seconds }) => seconds === null)) return [];
  const edits = noted.map(({ take, seconds }): TakeEdit => {
    const { shutter } = asTyped(take);
    return { id: take.id, seen: { shutter }, to: { shutter: writeShutter(seconds! / 2 ** stops).replace(/ s$/, '') } };
  });
  const size = `exactly ${Math.abs(stops)} ${Math.abs(stops) === 1 ? 'stop' : 'stops'}`;
  const [{ seen, to }] = edits;
  const pictures = own.length === 1 ? '' : ` (and so on, ${own.length} takes)`;
  const whose = filter === null ? 'These filters are' : `${nameOf(filter)} is`;
  const of = filter === null ? ' of the bare pictures' : '';
  return [
    {
      question: `${whose} ${size} off: was the shutter${of} ${to.shutter} s and not ${seen.shutter} s${pictures}?`,
      answer: `Yes, it was ${to.shutter} s`,
      edits,
    },
  ];
}
