'use client';

import { Printer } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import type { KeptRig } from '@/core/sitting/kits/keptRig';
import { EXPOSED_LESS } from '@/core/sitting/planning/plan';
import { Button } from '@/ui/Button';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { beadsOf } from '@/ui/beads';
import { createSession } from '../newSession/createSession';
import { Checklist } from './Checklist';
import { LevelChart } from './LevelChart';
import { LEAST_SHORT, LightBudget } from './LightBudget';
import { Outdoors } from './Outdoors';
import { RunOrder } from './RunOrder';
import { sessionOfPlan } from './sessionOfPlan';
import { PlanFields, type ShelfNames } from './PlanFields';
import { TargetReach } from './TargetReach';
import { EMPTY_FORM, usePlanForm, withRig } from './usePlanForm';
import { OwnChecklist } from './OwnChecklist';

/** The work before there is any footage: what to shoot in which order, whether the light is enough, what would spoil it. */
export function PlanStage({
  shelf,
  kit = null,
  rig = null,
}: {
  shelf: ShelfNames;
  kit?: KeptKit | null;
  rig?: KeptRig | null;
}) {
  const router = useRouter();
  const { control, form, change, request, plan, warnings, problems } = usePlanForm(
    withRig({ ...EMPTY_FORM, kit }, rig),
  );
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [selected, select] = useState<string | null>(null);
  const session = request && plan ? sessionOfPlan(request, plan, form.rig?.profiles[0]) : null;
  const nameOf = (id: string) => request?.kit.filters.find((one) => one.id === id)?.name ?? id;
  const cannot = plan?.outlook.filter((one) => one.cannot !== null) ?? [];
  const dark = plan?.outlook.filter(({ need }) => need.short >= LEAST_SHORT).map(({ filter }) => nameOf(filter)) ?? [];

  async function create() {
    setBusy(true);
    setFailure(null);
    try {
      router.push(`/sessions/${await createSession(session, {})}/plan`);
    } catch (error) {
      setFailure((error as Error).message);
      setBusy(false);
    }
  }

  return (
    <>
      <StopLadder beads={session ? beadsOf(session, null) : []} selected={selected} onSelect={select} />
      <main
        id="main"
        className="px-[18px] py-[18px] grid gap-[22px] items-start lg:grid-cols-[330px_minmax(0,1fr)] w-full max-w-[1680px] mx-auto"
      >
        <PlanFields control={control} form={form} change={change} shelf={shelf} />
        <section aria-label="The plan" className="min-w-0">
          <div className="flex justify-between gap-4 items-start flex-wrap">
            <div>
              <h1>{plan ? title(plan.takes.length, plan.minutes) : 'The plan waits for a few words'}</h1>
              <p className="text-ink-2 text-lead max-w-[66ch] mt-1.5">
                {plan?.bareCannot
                  ? `Bare itself can’t be shot: ${plan.bareCannot}`
                  : cannot.length > 0
                    ? `${cannot.map((one) => nameOf(one.filter)).join(', ')} can’t be tested like this; the light budget says what helps.`
                    : plan
                      ? dark.length > 0
                        ? `Every filter can be exposed, ${dark.join(' and ')} only by what the light budget takes for it. Go through the warnings, then keep the plan.`
                        : 'Every filter can be exposed. Go through the warnings, then keep the plan.'
                      : 'What can’t be read is told below.'}
              </p>
            </div>
            <div className="flex gap-2">
              <Button look="quiet" onClick={() => window.print()} disabled={!plan}>
                <Printer size={16} aria-hidden /> Print
              </Button>
              <Button look="main" disabled={!session || busy} onClick={() => void create()}>
                Keep the plan
              </Button>
            </div>
          </div>
          {(problems.length > 0 || failure) && (
            <ul
              className="mt-4 bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5 grid gap-1"
              aria-label="What is missing"
            >
              {problems.map((one) => (
                <li key={one}>{one}</li>
              ))}
              {failure && (
                <li role="alert" className="text-failure">
                  {failure}
                </li>
              )}
            </ul>
          )}
          {warnings.length > 0 && (
            <ul className="mt-4 grid gap-2" aria-label="What would spoil it">
              {warnings.map((one) => (
                <li key={one.code} className="bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5">
                  {one.message} <span className="text-ink-2">{one.advice}</span>
                </li>
              ))}
            </ul>
          )}
          {request && plan && (
            <>
              <LevelChart
                plan={plan}
                usableStops={request.rig.usableStops}
                less={EXPOSED_LESS[request.exposeFor]}
                nameOf={nameOf}
              />
              <TargetReach request={request} nameOf={nameOf} />
              <LightBudget request={request} plan={plan} nameOf={nameOf} />
              <RunOrder takes={plan.takes} nameOf={nameOf} />
            </>
          )}
          <Outdoors />
          <Checklist>
            <OwnChecklist lines={form.checklist} onChange={(checklist) => change({ checklist })} />
          </Checklist>
        </section>
      </main>
    </>
  );
}

function title(takes: number, minutes: number): string {
  const time = minutes >= 90 ? `${(minutes / 60).toFixed(1)} hours` : `${Math.round(minutes)} minutes`;
  return `${takes} takes, about ${time}`;
}
