/** A round robin: who has which filters when, so that every bench measures every filter of a kit. */
import { addDays, formatISO, parseISO } from 'date-fns';
import { z } from 'zod';
import type { KeptKit } from '../../sitting/kits/keptKit';

export const MOST_BENCHES = 20;
/** The bench that plans it. */
export const HOME = 'Home';

export const roundRobinSchema = z.object({
  benches: z
    .array(z.string().trim().min(1).max(120))
    .min(1, 'a round robin needs another bench.')
    .max(MOST_BENCHES - 1, `at most ${MOST_BENCHES - 1} other benches.`)
    .refine(
      (names) => new Set(names.map((one) => one.toLowerCase())).size === names.length,
      'two benches have one name.',
    )
    .refine((names) => !names.some((one) => one.toLowerCase() === HOME.toLowerCase()), `“${HOME}” is your own bench.`),
  control: z.string().nullable().describe('Id of the filter that is measured at every bench, first and last.'),
  firstDay: z.iso.date(),
  days: z.number().int().min(1).max(365).describe('That a bench has the filters, the way to it included.'),
  inParcels: z.boolean().describe('Whether the kit is split, so that all benches measure at once.'),
});
export type RoundRobinRequest = z.infer<typeof roundRobinSchema>;

/** A bench's time with some filters, both days included. */
export interface Turn {
  bench: string;
  filters: string[];
  from: string;
  until: string;
}

/**
 * The turns, by day and then by bench.
 *
 * Whole, the kit goes from bench to bench, and is measured at home before and after: what changed on the way would else be taken for the benches.
 * In parcels as many as there are benches, each moves on by one bench a round (a Latin square), so that n benches are done in n rounds; the
 * control filter goes with each whole kit, and in parcels stays out: it can only be at one bench at a time, and each takes one of its own.
 *
 * @param kit whose filters travel
 */
export function roundRobin({ filters }: Pick<KeptKit, 'filters'>, request: RoundRobinRequest): Turn[] {
  const { benches, control, firstDay, days, inParcels } = request;
  const all = [HOME, ...benches];
  const spanOf = (round: number) => {
    const day = (n: number) => formatISO(addDays(parseISO(firstDay), n), { representation: 'date' });
    return { from: day(round * days), until: day((round + 1) * days - 1) };
  };
  const ids = filters.map(({ id }) => id);
  if (!inParcels) return [...all, HOME].map((bench, round) => ({ bench, filters: ids, ...spanOf(round) }));
  const travelling = ids.filter((id) => id !== control);
  const parcels = all.map((_, parcel) => travelling.filter((_, i) => i % all.length === parcel));
  return all.flatMap((_, round) =>
    all.flatMap((bench, i): Turn[] => {
      const parcel = parcels[(i + round) % all.length];
      return parcel.length === 0 ? [] : [{ bench, filters: parcel, ...spanOf(round) }];
    }),
  );
}

/** The order of a bench's takes: bare and the control first and last, so that a drift of light or camera shows. */
export function orderOf(turn: Turn, kit: Pick<KeptKit, 'filters'>, control: string | null): string[] {
  const nameOf = (id: string) => kit.filters.find((one) => one.id === id)?.name ?? id;
  const others = turn.filters.filter((id) => id !== control).map(nameOf);
  const middle = others.flatMap((name, i) => (i > 0 && i % 2 === 0 ? ['bare', name] : [name]));
  const ends = control === null ? ['bare'] : ['bare', nameOf(control)];
  return [...ends, ...middle, ...[...ends].reverse()];
}

/** The session that a bench opens: the kit with its names and ids, so that its readings are found to be of the same filters. */
export function formOf(kit: KeptKit, request: RoundRobinRequest, bench: string): Record<string, unknown> {
  const own = roundRobin(kit, request).filter((turn) => turn.bench === bench);
  const { id, name, maker, filters } = kit;
  const notes = [
    `Round robin of ${name ?? id}, at ${bench}.`,
    ...own.map((turn) => `${turn.from} to ${turn.until}: ${orderOf(turn, kit, request.control).join(', ')}.`),
    'Send back readings.glade.json, as “Take away” of the measured session gives it.',
  ];
  return {
    format: 'aurora-glade-session',
    version: 1,
    title: `Round robin · ${name ?? id} · ${bench}`.slice(0, 200),
    notes: notes.join('\n'),
    rig: { camera: '', response: { kind: 'file' }, colorSpace: 'srgb', shutterMarks: 'nominal' },
    kits: [
      {
        id,
        name,
        maker,
        filters: filters.map(({ id: key, name: words, kind, nominal }) => ({ id: key, name: words, kind, nominal })),
      },
    ],
    scenes: [
      { id: 'chart', kind: 'chart' },
      { id: 'wall', kind: 'flat' },
    ],
    takes: [],
    patches: [],
  };
}
