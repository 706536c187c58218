/** What to carry, of kits as they are picked from. */
import { workOf, type CarryAsked } from '@/core/judging/carry/asked';
import { whatToCarry, type CarryAnswer } from '@/core/judging/carry/carry';
import type { Offer } from '@/core/judging/carry/choose';
import { polarizes } from '@/core/session/polarizing';
import type { PickKit } from '@/server/pickList';

/** The answer to what is asked, by the filters that are offered. */
export function carryAnswer(
  { from, owned, most, works }: CarryAsked,
  offers: readonly (Offer & { kitId: string })[],
): CarryAnswer {
  const have = offers.filter(({ kitId }) => kitId === owned).map(({ id }) => id);
  const choice = offers.filter(({ kitId }) => from === '' || kitId === from || kitId === owned);
  return whatToCarry({ works: works.map(workOf), most: most === '' ? null : Number(most), owned: have }, choice);
}

/**
 * Filters that can be carried: those whose strength was measured. Graduated ones darken half a picture and are no answer to a shutter; clear
 * ones take nothing.
 */
export function offersOf(kits: readonly PickKit[]): (Offer & { kitId: string })[] {
  return kits.flatMap((kit) =>
    kit.filters.flatMap(({ id, name, stops, u95, curve, kind }): (Offer & { kitId: string })[] => {
      if (stops === null || u95 === null || kind === 'graduated-nd' || kind === 'clear' || kind === 'infrared-cut')
        return [];
      const range = curve?.map(([, one]) => one) ?? [stops];
      return [
        {
          id: `${kit.id} ${id}`,
          name,
          kit: kit.name,
          kitId: kit.id,
          from: Math.min(...range),
          to: Math.max(...range),
          u95,
          polarizes: kind !== undefined && polarizes({ kind }),
        },
      ];
    }),
  );
}
