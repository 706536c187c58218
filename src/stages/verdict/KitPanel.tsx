import type { ReactNode } from 'react';
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import { kitsAcross, sittingsOf } from '@/core/judging/ranking/figures';
import {
  coverageInWords,
  coverageOf,
  evennessOf,
  honestLabel,
  standInsOf,
  stepsOf,
  type RankedKit,
} from '@/core/judging/ranking/kitAsSet';
import { pricePerUseful } from '@/core/judging/ranking/rank';
import { CardButtons } from '@/ui/CardButtons';
import { fixed, plusMinus, signed } from '@/ui/format';
import { Link } from '@/ui/Link';
import type { SessionView } from '@/ui/sessionView';
import { KitCharts } from './KitCharts';
import { partNamed } from './parts';
import { stepInWords } from './stepWords';

/** The kits of a session as wholes: steps, evenness, shutters, stand-ins, honest labels; and its charts. */
export function KitPanels({ view }: { view: SessionView }) {
  const { session, readings } = view;
  const kits = readings ? kitsAcross(sittingsOf(view.id, session, readings.filters)) : [];
  return kits.map((kit) => <KitPanel key={kit.id} kit={kit} view={view} />);
}

function KitPanel({ kit, view }: { kit: RankedKit; view: SessionView }) {
  const { bands, session, readings } = view;
  const steps = stepsOf(kit.filters, bands);
  const even = evennessOf(kit.filters, resolveColorSpace(session.rig.colorSpace));
  const coverage = coverageOf(kit.filters);
  const standIns = standInsOf(kit.filters);
  const price = pricePerUseful(kit, bands);
  const twins = coverage.filter((one) => one.sameAs !== null);
  const honest = kit.filters.flatMap((one) => {
    const label = honestLabel(one);
    return label === null ? [] : [{ name: one.name, label }];
  });
  if (coverage.length === 0) return null;
  const verdictOf = (id: string) => readings?.filters.find((one) => one.filter === id)?.verdict.label ?? '';
  return (
    <section
      aria-label={`${kit.name} as a whole`}
      className="mt-6 scroll-mt-4"
      {...partNamed(`${kit.name} as a whole`)}
    >
      <div className="flex items-baseline justify-between gap-4 flex-wrap mb-2">
        <h2>{kit.name} as a whole</h2>
        <Link href="/ranking" className="underline text-ink-2">
          Rank it beside others
        </Link>
      </div>
      <dl className="bg-sheet rounded-sheet px-[18px] py-4 grid gap-x-6 gap-y-2.5 sm:grid-cols-[130px_minmax(0,1fr)]">
        <Item what="Steps">
          {steps.length === 0 ? (
            'One strength alone, or none with a label.'
          ) : (
            <table className="text-label">
              <tbody>
                {steps.map((step) => (
                  <tr key={step.from + step.to}>
                    <th scope="row" className="font-normal text-left pr-5 whitespace-nowrap">
                      {step.from} to {step.to}
                    </th>
                    <td className="text-right pr-1 whitespace-nowrap">
                      {fixed(step.found.value)} <span className="unit">{plusMinus(step.found.u95)}</span>
                    </td>
                    <td className="text-ink-3 pr-5 whitespace-nowrap">of {fixed(step.labelled)}</td>
                    <td className={step.state === 'even' ? 'text-ink-2' : 'font-strong'}>{stepInWords(step)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Item>
        {even && (
          <Item what="Evenness of cast">
            {even.pair[0]} and {even.pair[1]} differ most, by ΔE00 {fixed(even.largest.value, 1)}{' '}
            <span className="unit">{plusMinus(even.largest.u95, 1)}</span>. One correction for all (R ×{' '}
            {fixed(even.common.r, 3)}, G × {fixed(even.common.g, 3)}, B × {fixed(even.common.b, 3)}) leaves ΔE00{' '}
            {fixed(even.residual.deltaE00, 1)} at {even.residual.filter}.
          </Item>
        )}
        <Item what="Shutters">
          {coverageInWords(coverage)}
          {twins.length > 0 &&
            ` ${twins.map((one) => `${one.filter} gives the same as ${one.sameAs}`).join('; ')}, within a third of a stop.`}
        </Item>
        {standIns.length > 0 && (
          <Item what="Stands in">
            {standIns.map((one) => `${one.filter} does for an ND${one.factor} (${signed(one.off)} stop)`).join('; ')}.
          </Item>
        )}
        <Item what="Honest labels">{honest.map(({ name, label }) => `${name} → ${label}`).join(', ')}</Item>
        {kit.price && price !== null && (
          <Item what="Price">
            {fixed(price)} {kit.price.currency} for each filter that does what it says and no neighbor does already.
          </Item>
        )}
      </dl>
      <KitCharts kit={kit} readings={readings} bands={bands} />
      <div className="mt-2">
        <CardButtons
          words="The kit as a card:"
          name={kit.name.toLowerCase().replace(/\s+/g, '-')}
          card={{
            title: kit.name,
            subtitle: session.title,
            figures: [],
            rows: kit.filters.map((one) => ({
              name: one.name,
              value: one.stops ? `${fixed(one.stops.value)} stops` : 'not measured',
              word: verdictOf(one.filter),
            })),
            foot: 'Measured strength of each filter, and how it stands to its label',
          }}
        />
      </div>
    </section>
  );
}

function Item({ what, children }: { what: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-ink-3">{what}</dt>
      <dd className="min-w-0 overflow-x-auto">{children}</dd>
    </>
  );
}
