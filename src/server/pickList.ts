/** Kits and rigs as they are picked from: measured strengths where there are any, labels else. */
import { isRated, nominalStops } from '@/core/session/notation';
import { planRigOf } from '@/core/sitting/kits/keptRig';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import type { PickFilter } from '@/core/judging/pick/pick';
import { labelledStrength } from '@/core/sitting/planning/labelledStrength';
import type { PlanRig } from '@/core/sitting/planning/planRig';
import { kitKey, kitsAcross, soundSittings } from '@/core/judging/ranking/figures';
import { allKits, listRigs, readRig } from '@/store';
import { measuredSessions } from './across';

export interface PickKit {
  id: string;
  name: string;
  /** How many of its filters were measured. */
  measured: number;
  filters: PickFilter[];
  /** Figures are from before a change of their session, or by an older version. */
  stale: boolean;
}

export interface PickRig {
  name: string;
  clips: PlanRig;
  stills: PlanRig;
  narrowest: number | null;
  frameRates: number[];
}

export async function pickList(): Promise<{ kits: PickKit[]; rigs: PickRig[]; lookedAt: number | null }> {
  const [{ sessions, lookedAt }, shelf, listed] = await Promise.all([measuredSessions(), allKits(), listRigs()]);
  const { sittings, sound } = soundSittings(sessions);
  const kits = kitsAcross(sittings);
  const measured = kits.map((kit): PickKit => {
    const own = sittings.filter((one) => kitKey(one.kit) === kit.id);
    const readings = own.flatMap((one) => one.readings);
    const kinds = new Map(own.flatMap((one) => one.kit.filters.map(({ id, kind }) => [id, kind] as const)));
    const filters = kit.filters.map((one): PickFilter => {
      const kind = kinds.get(one.filter);
      const variable = readings.find((found) => found.filter === one.filter && found.variable)?.variable;
      if (variable)
        return {
          id: one.filter,
          name: one.name,
          stops: variable.lightest.value,
          u95: Math.max(variable.lightest.u95, variable.darkest.u95),
          curve: variable.curve,
          kind,
        };
      const stops = one.stops?.value ?? one.nominal;
      return { id: one.filter, name: one.name, stops, u95: one.stops?.u95 ?? null, kind };
    });
    return {
      id: kit.id,
      name: kit.name,
      measured: filters.filter((one) => one.u95 !== null).length,
      filters: sorted(filters),
      stale: !sound.has(kit.id),
    };
  });
  const known = new Set(kits.map((kit) => kit.name));
  const labelled = shelf.filter((kit) => !known.has(kit.name ?? kit.id)).map(byLabel);
  const rigs = (await Promise.all(listed.map(({ id }) => readRig(id)))).flatMap((found): PickRig[] =>
    found
      ? found.item.lenses.map((lens) => ({
          name: found.item.lenses.length > 1 ? `${found.item.camera}, ${lens.name}` : found.item.camera,
          clips: planRigOf(found.item, lens, 'clips'),
          stills: planRigOf(found.item, lens, 'stills'),
          narrowest: lens.narrowest ?? null,
          frameRates: found.item.frameRates,
        }))
      : [],
  );
  return { kits: [...measured, ...labelled], rigs, lookedAt };
}

function byLabel(kit: KeptKit): PickKit {
  const filters = kit.filters.filter(isRated).map((filter): PickFilter => {
    const range = filter.nominal.stopsRange;
    return {
      id: filter.id,
      name: filter.name ?? filter.id,
      stops: range ? Math.min(...range) : (nominalStops(filter.nominal) ?? labelledStrength(filter)),
      u95: null,
      kind: filter.kind,
      // Nobody has measured its marks: it is turned by the stops that its label counts.
      ...(range
        ? {
            curve: [
              [Math.min(...range), Math.min(...range)],
              [Math.max(...range), Math.max(...range)],
            ] as const,
          }
        : {}),
    };
  });
  return { id: `shelf ${kit.id}`, name: kit.name ?? kit.id, measured: 0, filters: sorted(filters), stale: false };
}

const sorted = (filters: PickFilter[]) => filters.sort((a, b) => (a.stops ?? 99) - (b.stops ?? 99));
