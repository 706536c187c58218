/** Samples of one product: filters of one label in kits of one name. How far samples differ is told from how far sittings of one differ. */
import { varianceComponents, type Components } from '../../formulas/statistics/varianceComponents';
import type { Reading } from '../../session/readings';
import { combineSittings } from '../ranking/sittings';
import { figureOf, type DatedSitting, type Followed } from './lives';
import { replacedOn, serialOf } from './serials';

/** One piece of glass with its sittings. */
export interface Sample {
  /** As engraved; `null` where nobody told. */
  serial: string | null;
  /** Id of its kit. */
  kit: string;
  sittings: number;
  /** Mean of its sittings. */
  reading: Reading;
}

export interface Product {
  /** The filter's name. */
  name: string;
  samples: Sample[];
  /** `null` where no sample has two sittings: then the two can't be told apart. */
  spread: Components | null;
}

const nameOf = ({ kit }: DatedSitting) => kit.name ?? kit.id;

/**
 * Filters that were measured of two samples or more, of kits of one name. A sample is known by its serial number; where none is told, by its kit
 * and by when it was replaced there. Sittings without a day are left out where that matters.
 */
export function productsOf(sittings: readonly DatedSitting[], kitName: string, quality: Followed): Product[] {
  const own = sittings
    .filter((one) => nameOf(one) === kitName)
    .sort((a, b) => (a.day ?? Infinity) - (b.day ?? Infinity) || a.session.localeCompare(b.session));
  const results = own.flatMap((sitting) =>
    sitting.readings.flatMap((readings) => {
      const definition = sitting.kit.filters.find(({ id }) => id === readings.filter);
      const reading = figureOf(readings, quality);
      if (!definition || !reading) return [];
      const replaced = replacedOn(
        own.filter(({ kit }) => kit.id === sitting.kit.id),
        readings.filter,
      );
      const serial = serialOf(definition);
      if (serial === null && replaced.length > 0 && sitting.day === null) return [];
      const period = replaced.filter((day) => sitting.day !== null && day <= sitting.day).length;
      const key = serial === null ? `kit ${sitting.kit.id} ${period}` : `serial ${serial}`;
      return [{ name: definition.name ?? definition.id, key, serial, sitting, reading }];
    }),
  );
  return [...new Set(results.map(({ name }) => name))].flatMap((name): Product[] => {
    const of = results.filter((one) => one.name === name);
    const keys = [...new Set(of.map(({ key }) => key))];
    if (keys.length < 2) return [];
    const groups = keys.map((key) => of.filter((one) => one.key === key));
    return [
      {
        name,
        samples: groups.map((group) => {
          const { value, u95 } = combineSittings(
            group.map(({ sitting, reading }) => ({ session: sitting.session, reading })),
          );
          const [{ serial, sitting }] = group;
          return { serial, kit: sitting.kit.id, sittings: group.length, reading: { value, u95 } };
        }),
        spread: varianceComponents(groups.map((group) => group.map(({ reading }) => reading.value))),
      },
    ];
  });
}
