'use client';

import { Link } from '@/ui/Link';
import { useMemo } from 'react';
import { resolveColorSpace } from '@/core/formulas/color/spaces';
import { isEdge } from '@/core/session/readings';
import {
  coverageInWords,
  coverageOf,
  evennessOf,
  honestLabel,
  standInsOf,
  stepsOf,
  type RankedKit,
  type StepState,
} from '@/core/judging/ranking/kitAsSet';
import { kitsAcross, sittingsOf } from '@/core/judging/ranking/figures';
import { pricePerUseful } from '@/core/judging/ranking/rank';
import { CardButtons } from '@/ui/CardButtons';
import { ChartFigure } from '@/ui/charts/ChartFigure';
import { castsOption, labelsOption, mapOption, mtfOption, ROOM, stepsOption } from '@/ui/charts/options';
import { fixed, percent, plusMinus, signed } from '@/ui/format';
import type { SessionView } from '@/ui/sessionView';

export const STEP_WORDS: Record<StepState, string> = {
  even: 'as labelled',
  merged: 'merged: nearly the same filter',
  gap: 'a gap',
  reversed: 'reversed',
  unsure: 'its ± allows no word',
};

/** The kits of a session as wholes: steps, evenness, shutters, stand-ins, honest labels; and its charts. */
export function KitPanels({ view }: { view: SessionView }) {
  const { session, readings } = view;
  const kits = useMemo(
    () => (readings ? kitsAcross(sittingsOf(view.id, session, readings.filters)) : []),
    [session, readings, view.id],
  );
  return kits.map((kit) => <KitPanel key={kit.id} kit={kit} view={view} />);
}

function KitPanel({ kit, view }: { kit: RankedKit; view: SessionView }) {
  const { bands, session, readings } = view;
  const space = useMemo(() => resolveColorSpace(session.rig.colorSpace), [session.rig.colorSpace]);
  const steps = useMemo(() => stepsOf(kit.filters, bands), [kit, bands]);
  const even = useMemo(() => evennessOf(kit.filters, space), [kit, space]);
  const coverage = useMemo(() => coverageOf(kit.filters), [kit]);
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
    <section aria-label={`${kit.name} as a whole`} className="mt-6">
      <div className="flex items-baseline justify-between gap-4 flex-wrap mb-2">
        <h2>{kit.name} as a whole</h2>
        <Link href="/ranking" className="underline text-ink-2">
          Rank it beside others
        </Link>
      </div>
      <dl className="bg-sheet rounded-[10px] px-[18px] py-4 grid gap-x-6 gap-y-2.5 sm:grid-cols-[130px_minmax(0,1fr)]">
        <Item what="Steps">
          {steps.length === 0 ? (
            'One strength alone, or none with a label.'
          ) : (
            <table className="text-[13.5px]">
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
                    <td className={step.state === 'even' ? 'text-ink-2' : 'font-[650]'}>{STEP_WORDS[step.state]}</td>
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
      <KitCharts kit={kit} view={view} />
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

function Item({ what, children }: { what: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-ink-3">{what}</dt>
      <dd className="min-w-0 overflow-x-auto">{children}</dd>
    </>
  );
}

function KitCharts({ kit, view }: { kit: RankedKit; view: SessionView }) {
  const { readings, bands } = view;
  const found = useMemo(
    () => (readings?.filters ?? []).filter((one) => kit.filters.some((filter) => filter.filter === one.filter)),
    [readings, kit],
  );
  const nameOf = (id: string) => kit.filters.find((one) => one.filter === id)?.name ?? id;
  const labelled = kit.filters.flatMap(({ name, error, filter }) =>
    error
      ? [
          {
            name,
            error: error.value,
            u95: error.u95,
            off: found.find((one) => one.filter === filter)?.verdict.label === 'off',
          },
        ]
      : [],
  );
  const bounds = bands.strength.map((band) => band.upTo).filter(Number.isFinite);
  const steps = stepsOf(kit.filters, bands);
  const casts = kit.filters.flatMap(({ name, cast }) => (cast ? [{ name, a: cast.a.value, b: cast.b.value }] : []));
  const edges = found.flatMap((one) => {
    const all = (one.sharpness ?? []).filter(isEdge);
    const edge = all.find((part) => part.region === 'center') ?? all[0];
    return edge ? [{ id: one.filter, edge }] : [];
  });
  const maps = found.flatMap((one) =>
    one.shading?.map.stops.length ? [{ id: one.filter, shading: one.shading }] : [],
  );
  // One object while nothing changes: a chart is drawn anew for another one.
  const key = JSON.stringify([kit.id, readings?.createdAt, bounds, bands.mergedBelow]);
  const options = useMemo(() => {
    const mtf = [
      ...(edges[0] ? [{ name: 'bare', curve: edges[0].edge.curves.bare, bare: true }] : []),
      ...edges.map(({ id, edge }) => ({ name: nameOf(id), curve: edge.curves.filtered, bare: false })),
    ];
    const reach = Math.max(0.1, ...maps.flatMap(({ shading }) => shading.map.stops.map(Math.abs)));
    return {
      labels: labelsOption(labelled, bounds, ROOM),
      steps: stepsOption(
        steps.map((one) => ({
          name: `${one.from}\n${one.to}`,
          labelled: one.labelled,
          found: one.found.value,
          u95: one.found.u95,
          odd: one.state !== 'even' && one.state !== 'unsure',
        })),
        ROOM,
      ),
      casts: castsOption([{ name: kit.name, rows: casts }], ROOM, 1.3),
      mtf: mtfOption(mtf, ROOM),
      maps: maps.map(({ shading }) => mapOption(shading.map, ROOM, reach)),
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return (
    <div className="grid gap-3 mt-3 xl:grid-cols-2">
      {labelled.length > 0 && (
        <ChartFigure
          title="Labels against what was found"
          name="labels"
          option={options.labels}
          head={['Filter', 'Error, stops', '±']}
          rows={labelled.map((one) => [one.name, signed(one.error, 3), fixed(one.u95, 3)])}
        />
      )}
      {steps.length > 0 && (
        <ChartFigure
          title="Steps between neighbors, labelled (frame) and found"
          name="steps"
          option={options.steps}
          head={['Step', 'Labelled', 'Found', '±', 'Finding']}
          rows={steps.map((one) => [
            `${one.from} to ${one.to}`,
            fixed(one.labelled),
            fixed(one.found.value, 3),
            fixed(one.found.u95, 3),
            STEP_WORDS[one.state],
          ])}
        />
      )}
      {casts.length > 0 && (
        <ChartFigure
          title="Casts, CIE a*b* at L* 50"
          name="casts"
          option={options.casts}
          height={360}
          head={['Filter', 'a*', 'b*']}
          rows={casts.map((one) => [one.name, signed(one.a), signed(one.b)])}
        />
      )}
      {edges.length > 0 && (
        <ChartFigure
          title="Sharpness in the middle, MTF"
          name="mtf"
          option={options.mtf}
          height={360}
          head={['Filter', 'MTF50 bare', 'MTF50', 'Kept']}
          rows={edges.map(({ id, edge }) => [
            nameOf(id),
            fixed(edge.baselineMtf50.value, 3),
            fixed(edge.mtf50.value, 3),
            percent(edge.retained.value, 1),
          ])}
        />
      )}
      {maps.map(({ id, shading }, i) => (
        <ChartFigure
          key={id}
          title={`Corners of ${nameOf(id)}`}
          name={`corners-${id}`}
          option={options.maps[i]}
          height={230}
          head={['Corner', 'Stops']}
          rows={Object.entries(shading.corners).map(([corner, reading]) => [
            corner.replace(/([A-Z])/g, ' $1').toLowerCase(),
            reading ? signed(reading.value, 3) : 'withheld',
          ])}
        />
      ))}
    </div>
  );
}

/** The takes that a filter's figures rest on, each with its picture. */
export function RestsOn({ view, filter, name }: { view: SessionView; filter: string; name: string }) {
  const own = view.session.takes.filter((take) => take.filter === filter);
  const scenes = new Set(own.map((take) => take.scene));
  const bare = view.session.takes.filter((take) => take.filter === null && scenes.has(take.scene));
  const list = (takes: typeof own) => (
    <ul className="flex flex-wrap gap-x-5 gap-y-1">
      {takes.map((take) => (
        <li key={take.id}>
          {take.id}{' '}
          {take.files.map((file, i) => {
            const sha = view.files[file];
            return sha ? (
              <a key={file} href={`/api/files/${sha}?size=1600`} className="underline text-ink-2 mr-1.5" title={file}>
                picture{take.files.length > 1 ? ` ${i + 1}` : ''}
              </a>
            ) : null;
          })}
        </li>
      ))}
    </ul>
  );
  return (
    <details className="mt-4 bg-sheet rounded-[10px] px-[18px] py-3">
      <summary className="cursor-pointer font-[650]">What {name}’s figures rest on</summary>
      <div className="mt-2 grid gap-2 text-[13px]">
        <p className="text-ink-3">
          Measured {view.readings?.createdAt.slice(0, 16).replace('T', ' ')} UTC by {view.readings?.generator}
        </p>
        {list(own)}
        <p className="text-ink-3">Bare takes beside them</p>
        {list(bare)}
        <p>
          <Link href={`/sessions/${view.id}/compare?filter=${encodeURIComponent(filter)}`} className="underline">
            Compare them
          </Link>{' '}
          ·{' '}
          <Link href={`/sessions/${view.id}/footage`} className="underline">
            Footage
          </Link>{' '}
          ·{' '}
          <Link href={`/sessions/${view.id}/regions`} className="underline">
            Patches
          </Link>
        </p>
      </div>
    </details>
  );
}
