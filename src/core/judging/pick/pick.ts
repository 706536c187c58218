/**
 * Which filter to put on now: the light that a bare meter tells, the shutter that is wanted, the strengths of the filters at hand. Exposure
 * arithmetic only; a meter that looked at something else, or sun on the lens, it can't know.
 */
import { exposureLog2, writeFNumber, writeIso, writeShutter } from '../../formulas/optics/exposure';
import type { FilterKind } from '../../session/notation';
import { wantedExposure } from '../../sitting/planning/lightBudget';
import type { PlanRig } from '../../sitting/planning/planRig';

/** Which side a picture that can't be right should err to. */
export type PickSchool = 'darker' | 'brightest' | 'nearest';

export const PICK_SCHOOLS: readonly { school: PickSchool; name: string; why: string }[] = [
  {
    school: 'darker',
    name: 'Darker by preference',
    why: 'Light can be raised later; what is burnt out can’t be brought back.',
  },
  {
    school: 'brightest',
    name: 'For the brightest part',
    why: 'The brightest part must stay below clipping, whatever the rest does.',
  },
  { school: 'nearest', name: 'Nearest', why: 'The exposure nearest to the meter’s, on either side.' },
];

export interface PickFilter {
  id: string;
  name: string;
  /** Stops, measured or labelled; for a variable filter its lightest. `null` where nobody knows: such a filter isn't picked. */
  stops: number | null;
  /** `null` where only the label is known. */
  u95: number | null;
  /** Of a variable filter: stops by mark, rising. */
  curve?: readonly (readonly [mark: number, stops: number])[];
  kind?: FilterKind;
}

export interface PickAsk {
  /** EV at ISO 100 of the scene, without a filter. */
  ev100: number;
  /** Seconds that the shutter should be open. */
  wanted: number;
  /** ISO and aperture that one would like to shoot at. */
  iso: number;
  fNumber: number;
  school: PickSchool;
  /** Stops that the brightest part lies above what the meter makes mid-gray of, beyond what the camera holds anyway. */
  brightest: number;
  rig: Pick<PlanRig, 'baseIso' | 'highestIso' | 'fastest' | 'slowest' | 'widest' | 'fixedAperture' | 'step'>;
  narrowest?: number;
  /** Two filters on each other are allowed. */
  stack: boolean;
}

export interface Picked {
  filters: string[];
  name: string;
  stops: number;
  u95: number | null;
  mark: number | null;
  /** The shutter that would be right through it at the ISO and aperture wished for, seconds. */
  rightSeconds: number;
  /** What the picture is off by at the wanted shutter: positive is too bright, EV. */
  left: number;
  /** Settings that close the gap as far as the rig can, and what is left over then. */
  settings: { seconds: number; iso: number; fNumber: number };
  over: number;
  /** Within what common practice calls workable. */
  workable: boolean;
  words: string;
}

/** An exposure within this of the meter's is workable, EV (common practice, no source). */
export const WORKABLE_EV = 0.7;
/** What isn't worth turning a dial for, EV. */
const NOTHING_EV = 0.05;

/** All filters (and bare, and pairs where allowed), the best for the school first. */
export function pickFilters(ask: PickAsk, filters: readonly PickFilter[]): Picked[] {
  const bare: PickFilter = { id: 'bare', name: 'no filter', stops: 0, u95: 0 };
  const single = [bare, ...filters].flatMap((one) => through(ask, one));
  const fixed = filters.filter((one) => !one.curve && one.stops !== null);
  const pairs = ask.stack
    ? fixed.flatMap((one, i) =>
        fixed.slice(i + 1).flatMap((other) =>
          through(ask, {
            id: `${one.id}+${other.id}`,
            name: `${one.name} on ${other.name}`,
            stops: one.stops! + other.stops!,
            u95: one.u95 === null || other.u95 === null ? null : Math.hypot(one.u95, other.u95),
          }).map((picked) => ({ ...picked, filters: [one.id, other.id] })),
        ),
      )
    : [];
  const weigh = ({ left }: Picked) => cost(left, ask);
  // Of two as good the one of which more is known, then fewer pieces of glass.
  return [...single, ...pairs].sort(
    (a, b) =>
      weigh(a) - weigh(b) ||
      Number(a.u95 === null) - Number(b.u95 === null) ||
      a.filters.length - b.filters.length ||
      a.name.localeCompare(b.name),
  );
}

/** How far from what the school asks for; what errs to the wrong side comes after all that err to the right one. */
function cost(left: number, { school, brightest }: PickAsk): number {
  if (school === 'nearest') return Math.abs(left);
  const aim = school === 'brightest' ? left + brightest : left;
  return aim <= NOTHING_EV ? Math.abs(aim) : 1000 + aim;
}

/** A variable filter is turned to what is wanted, as far as it goes. */
function through(ask: PickAsk, filter: PickFilter): Picked[] {
  if (filter.stops === null) return [];
  const metered = wantedExposure(ask.ev100, 0);
  const bareLeft = exposureLog2({ shutterSeconds: ask.wanted, iso: ask.iso, fNumber: ask.fNumber }) - metered;
  const aim = bareLeft + (ask.school === 'brightest' ? ask.brightest : 0);
  const turned = filter.curve && filter.curve.length > 1 ? turnedTo(filter.curve, aim) : null;
  const stops = turned?.stops ?? filter.stops;
  const left = bareLeft - stops;
  const rightSeconds = ask.wanted * 2 ** -left;
  const { settings, over } = closed(ask, left);
  return [
    {
      filters: filter.id === 'bare' ? [] : [filter.id],
      name: filter.name,
      stops,
      u95: filter.u95,
      mark: turned?.mark ?? null,
      rightSeconds,
      left,
      settings,
      over,
      workable: Math.abs(over) <= WORKABLE_EV,
      words: inWords(left, settings, over, ask),
    },
  ];
}

/** The mark at which a variable filter takes so much; its ends where it doesn't go so far. */
export function turnedTo(
  curve: readonly (readonly [number, number])[],
  stops: number,
): { mark: number; stops: number } {
  const row = [...curve].sort((a, b) => a[1] - b[1]);
  const [first, last] = [row[0], row[row.length - 1]];
  if (stops <= first[1]) return { mark: first[0], stops: first[1] };
  if (stops >= last[1]) return { mark: last[0], stops: last[1] };
  const i = row.findIndex(([, at]) => at >= stops);
  const [low, high] = [row[i - 1], row[i]];
  const part = high[1] === low[1] ? 0 : (stops - low[1]) / (high[1] - low[1]);
  return { mark: low[0] + part * (high[0] - low[0]), stops };
}

/** Steps of a dial that nobody has told. */
const THIRD = 1 / 3;
const ROUNDING = 1e-6;

/** ISO first, then the aperture, then, where neither reaches, the shutter within what the rig can. */
function closed({ wanted, iso, fNumber, rig, narrowest = 16, school }: PickAsk, left: number) {
  const step = rig.step > 0 ? rig.step : THIRD;
  // What can't be right to the dial's step errs to the side that the school asks for.
  const onDial = (stops: number) =>
    (school === 'nearest' ? Math.round(stops / step) : Math.floor(stops / step + ROUNDING)) * step;
  const seconds = Math.min(rig.slowest, Math.max(rig.fastest, wanted));
  let over = left + Math.log2(seconds / wanted);
  const settings = { seconds, iso, fNumber };
  if (Math.abs(over) > NOTHING_EV) {
    const steps = onDial(Math.log2(iso / rig.baseIso) - over);
    settings.iso = Math.min(rig.highestIso, Math.max(rig.baseIso, rig.baseIso * 2 ** steps));
    over += Math.log2(settings.iso / iso);
  }
  if (!rig.fixedAperture && Math.abs(over) > NOTHING_EV) {
    // Counted in stops of light: a wider ring is brighter.
    const opened = onDial(2 * Math.log2(rig.widest / fNumber) - over);
    settings.fNumber = Math.min(narrowest, Math.max(rig.widest, rig.widest * 2 ** (-opened / 2)));
    over -= 2 * Math.log2(settings.fNumber / fNumber);
  }
  return { settings, over };
}

function inWords(left: number, settings: Picked['settings'], over: number, ask: PickAsk): string {
  const side = (ev: number) => `${Math.abs(ev).toFixed(1)} EV too ${ev > 0 ? 'bright' : 'dark'}`;
  const changed = [
    Math.abs(Math.log2(settings.seconds / ask.wanted)) > 0.01 &&
      `${writeShutter(settings.seconds)}, as far as the camera goes`,
    Math.abs(Math.log2(settings.iso / ask.iso)) > 0.01 && `ISO ${writeIso(settings.iso)}`,
    Math.abs(Math.log2(settings.fNumber / ask.fNumber)) > 0.01 && `f/${writeFNumber(settings.fNumber)}`,
  ].filter(Boolean);
  if (Math.abs(left) <= NOTHING_EV && changed.length === 0) return 'Right as it is.';
  const closing =
    changed.length > 0
      ? `, ${changed.join(' and ')} ${Math.abs(over) <= NOTHING_EV ? 'makes it right' : `leaves ${side(over)}`}`
      : '';
  return `${side(left)}${closing}.`.replace(/^./, (letter) => letter.toUpperCase());
}
