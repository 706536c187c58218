/**
 * What only labels tell while a sitting goes on: a strength far off its label is another filter, other light, another exposure than was told,
 * or a bad label. A bare take and the same take again tell these apart.
 */
import { nominalStops } from '../../session/notation';
import { median } from '../../formulas/statistics/averages';
import type { FilterReadings, Reading } from '../../session/readings';
import type { Filter, Session } from '../../session/schema';
import type { Alarm } from './alarm';

/** Strengths so far, by filter. */
export type Strengths = ReadonlyMap<string, Reading>;

/** Labels are off by a third of a stop at times (common practice, no source); from here on something else is likelier. */
const FAR_OFF = 0.42;
/** Another filter's label has to be so much nearer. */
const NEARER = 2;

/**
 * Alarms of filters whose strength is far off their label.
 *
 * @param rough what whole pictures show, for filters that have no strength yet or none that can be told
 */
export function labelsByFilter(session: Session, strengths: Strengths, rough: Strengths = new Map()): Alarm[] {
  const filters = session.kits.flatMap((kit) => kit.filters);
  return filters.flatMap((filter): Alarm[] => {
    const told = strengths.get(filter.id);
    const [label, found] = [labelOf(filter), told ?? rough.get(filter.id)];
    if (label === null || !found) return [];
    const off = found.value - label;
    if (Math.abs(off) < FAR_OFF + found.u95) return [];
    const takes = session.takes
      .filter((take) => take.filter === filter.id && take.role === 'measure')
      .map(({ id }) => id);
    const other = filters
      .filter((one) => one.id !== filter.id && labelOf(one) !== null)
      .sort((a, b) => Math.abs(found.value - labelOf(a)!) - Math.abs(found.value - labelOf(b)!))
      .at(0);
    const isOther = other !== undefined && NEARER * Math.abs(found.value - labelOf(other)!) < Math.abs(off);
    const name = ({ id, name: own }: Filter) => own ?? id;
    const reads = `${name(filter)} takes ${told ? found.value.toFixed(2) : `about ${found.value.toFixed(1)}`} stops, ${Math.abs(off).toFixed(1)} ${off > 0 ? 'more' : 'less'} than its label`;
    return [
      isOther
        ? {
            kind: 'wrong filter',
            takes,
            message: `${reads}; ${name(other)} would take so much.`,
            advice: 'Look which filter is on, and shoot this take again with the right one.',
            again: true,
          }
        : {
            kind: 'light',
            takes,
            message: `${reads}: the light or the exposure changed, or the label is wrong.`,
            advice: 'Shoot a bare take now, then this one again; where they agree it is the label.',
            again: true,
          },
    ];
  });
}

/** Marks of variable filters are off by half a stop and more (common practice, no source); from here on the ring likelier stood elsewhere. */
const MARK_FAR_OFF = 1;

/**
 * Alarms of marks at which a variable filter takes far more or less than is printed there. Marks that aren't stops of its labelled range promise
 * nothing. What the other marks are off by alike is the label's, not the ring's.
 */
export function marksByLabel(session: Session, readings: readonly FilterReadings[]): Alarm[] {
  const filters = new Map(session.kits.flatMap((kit) => kit.filters.map((one) => [one.id, one] as const)));
  return readings.flatMap((found): Alarm[] => {
    const id = found.filter;
    const marks = [...(found.marks ?? []), ...withheldMarks(found, session)];
    const filter = filters.get(id);
    const [low, high] = [...(filter?.nominal.stopsRange ?? [])].sort((a, b) => a - b);
    const inStops = marks.every(({ mark }) => mark >= low && mark <= high);
    if (!filter || high === undefined || !inStops) return [];
    return marks.flatMap(({ mark, stops }): Alarm[] => {
      const others = marks.filter((one) => one.mark !== mark).map((one) => one.stops.value - one.mark);
      const usual = others.length > 1 ? median(others) : 0;
      const off = stops.value - mark - usual;
      if (Math.abs(off) < MARK_FAR_OFF + stops.u95) return [];
      const takes = session.takes.filter((one) => one.filter === id && one.setting?.mark === mark);
      const apart = `${Math.abs(off).toFixed(1)} ${off > 0 ? 'more' : 'less'} than ${usual === 0 ? 'is marked' : 'its other marks lead to expect'}`;
      return [
        {
          kind: 'wrong mark',
          takes: takes.map((one) => one.id),
          message: `${filter.name ?? id} takes ${stops.value.toFixed(2)} stops at mark ${mark}, ${apart}: the ring stood elsewhere, or the light changed.`,
          advice: 'Look at which mark the ring stands, and shoot this take again; where they agree it is the label.',
          again: true,
        },
      ];
    });
  });
}

/** What withheld marks came out as: too uncertain for a figure, good enough to tell one mark from another. */
function withheldMarks({ marks = [], faults }: FilterReadings, { takes }: Session): { mark: number; stops: Reading }[] {
  return faults.flatMap(({ around, takes: own }) => {
    const mark = takes.find(({ id }) => own.includes(id))?.setting?.mark;
    return around && mark !== undefined && !marks.some((one) => one.mark === mark) ? [{ mark, stops: around }] : [];
  });
}

/** Casts differ within a kit by less (CIE a*, b*); from here on the white balance is likelier to have moved. Our own judgement. */
const FAR_TINTED = 8;

/** Alarms of filters whose color is far off that of the others, or of neutral where there are none. */
export function castsBeside(session: Session, readings: readonly FilterReadings[]): Alarm[] {
  const casts = readings.flatMap(({ filter, cast }) => (cast ? [{ filter, a: cast.a.value, b: cast.b.value }] : []));
  return casts.flatMap(({ filter, a, b }): Alarm[] => {
    const definition = session.kits.flatMap((kit) => kit.filters).find(({ id }) => id === filter);
    if (!definition || definition.kind === 'color') return [];
    const others = casts.filter((one) => one.filter !== filter);
    const usual = { a: others.length > 0 ? median(others.map((one) => one.a)) : 0, b: others.length > 0 ? median(others.map((one) => one.b)) : 0 }; // prettier-ignore
    const apart = Math.hypot(a - usual.a, b - usual.b);
    if (apart < FAR_TINTED) return [];
    const takes = session.takes.filter((take) => take.filter === filter && take.role === 'measure').map(({ id }) => id);
    return [
      {
        kind: 'white balance',
        takes,
        message: `${definition.name ?? filter} is tinted by ${apart.toFixed(0)} (CIE a*, b*) against ${others.length > 0 ? 'the other filters' : 'bare'}: its own cast, or the white balance moved.`,
        advice: 'Look whether the white balance is locked; if it wasn’t, lock it and shoot this take again.',
        again: false,
      },
    ];
  });
}

/** Stops of a label that says one strength; `null` for what turns, polarizes alone, or says none. */
function labelOf({ kind, nominal }: Filter): number | null {
  return kind === 'nd' || kind === 'clear' ? nominalStops(nominal) : null;
}
