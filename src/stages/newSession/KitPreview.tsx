import { allNotations, describeNominal, formatFactor, nominalStops } from '@/core/session/notation';
import { parseKitShorthand } from '@/core/sitting/kits/shorthand';
import { fixed, percent } from '@/ui/format';

/** What the shorthand means, in every notation. */
export function KitPreview({ shorthand }: { shorthand: string }) {
  const { filters } = parseKitShorthand(shorthand);
  if (filters.length === 0) return null;
  return (
    <ul aria-label="The kit, in all notations" className="flex flex-wrap gap-x-5 gap-y-1 mt-2 text-small text-ink-2">
      {filters.map((filter) => {
        const stops = nominalStops(filter.nominal);
        const all = stops === null ? null : allNotations(stops);
        return (
          <li key={filter.id}>
            <b className="text-ink">{filter.name}</b>{' '}
            {all
              ? `${fixed(all.stops)} stops, ND${formatFactor(all.ndFactor)}, D ${fixed(all.opticalDensity)}, ${percent(all.transmittance, all.transmittance < 0.1 ? 1 : 0)}`
              : describeNominal(filter.nominal)}
          </li>
        );
      })}
    </ul>
  );
}
