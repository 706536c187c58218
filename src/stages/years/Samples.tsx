import { useMemo } from 'react';
import type { DatedSitting, Followed } from '@/core/judging/overTime/lives';
import { FOLLOWED } from '@/core/judging/overTime/lives';
import { productsOf } from '@/core/judging/overTime/samples';
import { FiguresHead } from '@/ui/FiguresHead';
import { withU95 } from '@/ui/format';
import { componentInWords, sampleName, samplesSentence } from './words';

/** Several samples of one product: how far they differ, told from how far sittings of one sample do. */
export function Samples({
  sittings,
  kit,
  quality,
}: {
  sittings: readonly DatedSitting[];
  /** The kit's name. */
  kit: string;
  quality: Followed;
}) {
  const products = useMemo(() => productsOf(sittings, kit, quality), [sittings, kit, quality]);
  if (products.length === 0) return null;
  return (
    <section aria-label="Samples of one product" className="grid gap-2 min-w-0">
      <h2>Samples of one product</h2>
      <p className="text-ink-2">{samplesSentence(products, FOLLOWED[quality].unit)}</p>
      <div className="relative bg-sheet rounded-sheet p-3 overflow-x-auto">
        <table className="w-full text-label tabular-nums">
          <caption className="sr-only">Samples, and how far they and their sittings differ</caption>
          <FiguresHead names={['Filter', 'Samples', 'Between samples', 'Between sittings']} />
          <tbody>
            {products.map(({ name, samples, spread }) => (
              <tr key={name} className="align-top">
                <th scope="row" className="text-left font-medium pr-3 py-1">
                  {name}
                </th>
                <td className="pr-3 py-1 text-right whitespace-nowrap">
                  {samples.map((sample, i) => (
                    <span key={i} className="block">
                      <span className="text-ink-3">
                        {sampleName(sample, i)}, {sample.sittings}×
                      </span>{' '}
                      {withU95(sample.reading)}
                    </span>
                  ))}
                </td>
                <td className="pr-3 py-1 text-right whitespace-nowrap">{componentInWords(spread?.between)}</td>
                <td className="pr-3 py-1 text-right whitespace-nowrap">{componentInWords(spread?.within)}</td>
                <td />
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-ink-3 text-label max-w-[70ch]">
        Standard deviations with their 95 % limits. A bench that moved between sittings counts as between sittings.
      </p>
    </section>
  );
}
