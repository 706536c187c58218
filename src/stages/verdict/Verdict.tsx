'use client';

import { Download } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from '@/ui/Link';
import { describeNominal } from '@/core/session/notation';
import { offBy, writeHeadline } from '@/core/words/headline';
import type { Fault } from '@/core/session/readings';
import { buttonClass } from '@/ui/Button';
import { DownloadMenu } from '@/ui/controls/Menu';
import { slipsOf } from '@/core/judging/slips';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { useSelectedFilter } from '@/ui/selection';
import type { SessionView } from '@/ui/sessionView';
import { Contents } from './Contents';
import { FaultNotes, type NamedFault } from './FaultNotes';
import { FilterSheet } from './FilterSheet';
import { partNamed } from './parts';
import { RestsOn } from './RestsOn';
import { Slips } from './Slips';
import { UpClose } from './UpClose';
import { VerdictTable } from './VerdictTable';

/** The figures of a session: the finding in a sentence, the table, the sheet of one filter. */
export function Verdict({
  view,
  next = null,
  response,
  whole,
}: {
  view: SessionView;
  /** What to shoot next. */
  next?: ReactNode;
  /** What doesn't hang on the chosen filter is made by the server: how codes became light, and the session as a whole. */
  response: ReactNode;
  whole: ReactNode;
}) {
  const { readings, session } = view;
  const filters = session.kits.flatMap((kit) => kit.filters);
  const [selected, select] = useSelectedFilter(view.beads, mostTelling(view));
  const nameOf = (id: string) => filters.find((filter) => filter.id === id)?.name ?? id;
  if (!readings)
    return (
      <>
        <StopLadder beads={view.beads} selected={selected} onSelect={select} />
        <main id="main" className="px-[18px] py-16 max-w-[680px] mx-auto">
          <h1>Not measured yet</h1>
          <p className="text-ink-2 mt-2 mb-5">
            The ladder shows the labels; what the filters really take, measuring tells.
          </p>
          <Link href={`/sessions/${view.id}/measure`} className={buttonClass('main')}>
            Go to Measure
          </Link>
        </main>
      </>
    );
  const headline = writeHeadline(readings, nameOf);
  const chosen = readings.filters.find((one) => one.filter === selected) ?? null;
  const definition = filters.find((filter) => filter.id === selected);
  return (
    <>
      <StopLadder beads={view.beads} selected={selected} onSelect={select} />
      <main
        id="main"
        className="px-[18px] py-[18px] grid gap-[18px] items-start lg:grid-cols-[minmax(0,1fr)_350px] w-full max-w-[1680px] mx-auto"
      >
        <section aria-label="Findings" className="min-w-0">
          <div className="flex justify-between gap-4 items-start scroll-mt-4" {...partNamed('Figures')}>
            <h1>{headline.title}</h1>
            <span className="flex items-center gap-1 flex-wrap justify-end">
              <Link href="/bands" className={buttonClass('quiet')}>
                Rating limits
              </Link>
              <Downloads id={view.id} />
            </span>
          </div>
          <p className="text-ink-2 text-lead max-w-[66ch] mt-1.5 mb-3.5">{headline.text}</p>
          {view.stale && (
            <p className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 mb-3.5">
              {view.stale === 'changed' ? (
                <>
                  <b>These figures are from before a change.</b> Takes, patches or files differ now.{' '}
                </>
              ) : (
                <b>These figures were measured by an older version of the program. </b>
              )}
              <Link href={`/sessions/${view.id}/measure`} className="underline">
                Measure again
              </Link>
            </p>
          )}
          <VerdictTable readings={readings} nameOf={nameOf} selected={selected} onSelect={select} />
          {next}
          {view.stale === null && <Slips slips={slipsOf(view.session, readings)} sessionId={view.id} />}
          <FaultNotes
            sessionId={view.id}
            faults={collectFaults(
              readings.faults,
              readings.filters.map((one) => ({ name: nameOf(one.filter), faults: one.faults })),
            )}
          />
          {response}
          {chosen && <UpClose readings={chosen} name={nameOf(chosen.filter)} view={view} />}
          {chosen && <RestsOn view={view} filter={chosen.filter} name={nameOf(chosen.filter)} />}
          {whole}
        </section>
        <div className="min-w-0 self-stretch">
          {chosen && (
            <FilterSheet
              readings={chosen}
              name={nameOf(chosen.filter)}
              label={definition ? describeNominal(definition.nominal) : ''}
              all={readings.filters}
              nameOf={nameOf}
              onSelect={select}
            />
          )}
          <Contents />
        </div>
      </main>
    </>
  );
}

/** The filter farthest from its label opens first. */
function mostTelling(view: SessionView): string | null {
  const row = [...(view.readings?.filters ?? [])].sort((a, b) => offBy(b) - offBy(a));
  return row[0]?.filter ?? view.beads[0]?.id ?? null;
}

/** One note a fault, with all the filters it is about. */
function collectFaults(general: Fault[], filters: { name: string; faults: Fault[] }[]): NamedFault[] {
  const notes: NamedFault[] = general.map((fault) => ({ fault, filters: [] }));
  for (const { name, faults } of filters)
    for (const fault of faults) {
      const known = notes.find((note) => note.fault.code === fault.code && note.fault.message === fault.message);
      if (known) known.filters.push(name);
      else notes.push({ fault, filters: [name] });
    }
  const weight = { error: 0, warning: 1, info: 2 };
  return notes.sort((a, b) => weight[a.fault.severity] - weight[b.fault.severity]);
}

function Downloads({ id }: { id: string }) {
  const items: [string, string][] = [
    [`/api/sessions/${id}/readings.json`, 'Readings, JSON'],
    [`/api/sessions/${id}/readings.csv`, 'Readings, CSV'],
    [`/api/sessions/${id}/exports`, 'All readings: CSV, JSON, CGATS, .cube, one zip'],
    [`/api/sessions/${id}/bundle`, 'Session with pictures, .glade.zip'],
  ];
  return (
    <DownloadMenu
      items={items}
      trigger={
        <>
          <Download size={16} aria-hidden /> Download
        </>
      }
    />
  );
}
