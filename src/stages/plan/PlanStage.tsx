'use client';

import { Printer } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { CHECKLIST, SCHOOLS, type PlanScene } from '@/core/planning';
import { Button } from '@/ui/Button';
import { StopLadder } from '@/ui/ladder/StopLadder';
import { beadsOf } from '@/ui/beads';
import { createSession } from '../newSession/createSession';
import { KitPreview } from '../newSession/KitPreview';
import { LevelChart } from './LevelChart';
import { LightBudget } from './LightBudget';
import { Outdoors } from './Outdoors';
import { RunOrder } from './RunOrder';
import { sessionOfPlan } from './sessionOfPlan';
import { usePlanForm, type PlanForm } from './usePlanForm';

const SCENES: readonly [PlanScene, string][] = [
  ['chart', 'chart'],
  ['flat', 'even wall'],
  ['screen', 'white screen'],
];

/** The work before there is any footage: what to shoot in which order, whether the light is enough, what would spoil it. */
export function PlanStage() {
  const router = useRouter();
  const { form, change, request, plan, warnings, problems } = usePlanForm();
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [selected, select] = useState<string | null>(null);
  const session = request && plan ? sessionOfPlan(request, plan) : null;
  const cannot = plan?.outlook.filter((one) => one.cannot !== null) ?? [];
  const nameOf = (id: string) => request?.kit.filters.find((one) => one.id === id)?.name ?? id;

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
        <Fields form={form} change={change} />
        <section aria-label="The plan" className="min-w-0">
          <div className="flex justify-between gap-4 items-start flex-wrap">
            <div>
              <h1>{plan ? title(plan.takes.length, plan.minutes) : 'The plan waits for a few words'}</h1>
              <p className="text-[#d6d6d6] text-[15px] max-w-[66ch] mt-1.5">
                {plan?.bareCannot
                  ? `Bare itself can’t be shot: ${plan.bareCannot}`
                  : cannot.length > 0
                    ? `${cannot.map((one) => nameOf(one.filter)).join(', ')} can’t be tested like this; the light budget says what helps.`
                    : plan
                      ? 'Every filter can be exposed. Go through the warnings, then keep the plan.'
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
              <LevelChart plan={plan} usableStops={request.rig.usableStops} nameOf={nameOf} />
              <LightBudget request={request} plan={plan} nameOf={nameOf} />
              <RunOrder takes={plan.takes} nameOf={nameOf} />
            </>
          )}
          <Outdoors />
          <h2 className="mt-7">Before and while you shoot</h2>
          <ul className="mt-2 grid gap-1.5" aria-label="Checklist">
            {CHECKLIST.map((line) => (
              <li key={line}>
                <label className="flex gap-2.5 items-start">
                  <input type="checkbox" className="accent-accent size-4 mt-0.5" />
                  <span>{line}</span>
                </label>
              </li>
            ))}
          </ul>
        </section>
      </main>
    </>
  );
}

function title(takes: number, minutes: number): string {
  const time = minutes >= 90 ? `${(minutes / 60).toFixed(1)} hours` : `${Math.round(minutes)} minutes`;
  return `${takes} takes, about ${time}`;
}

function Fields({ form, change }: { form: PlanForm; change: (part: Partial<PlanForm>) => void }) {
  const text = (key: keyof PlanForm, label: string, wide = false, placeholder?: string) => (
    <label className={wide ? 'grid gap-1' : 'flex items-center justify-between gap-2'}>
      <span className={wide ? 'text-ink-3 text-[12px]' : 'text-ink-2'}>{label}</span>
      <input
        className={`field ${wide ? 'w-full' : 'w-[104px] text-right'}`}
        value={form[key] as string}
        placeholder={placeholder}
        spellCheck={false}
        onChange={(event) => change({ [key]: event.target.value } as Partial<PlanForm>)}
      />
    </label>
  );
  const choose = (key: keyof PlanForm, label: string, options: readonly (readonly [string, string])[]) => (
    <label className="flex items-center justify-between gap-2">
      <span className="text-ink-2">{label}</span>
      <select
        className="field w-[164px]"
        value={form[key] as string}
        onChange={(event) => change({ [key]: event.target.value } as Partial<PlanForm>)}
      >
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <aside aria-label="What is planned" className="bg-sheet rounded-[10px] p-[18px] grid gap-2.5 print:hidden">
      {text('title', 'Title', true, 'Bench, first sitting')}
      {text('kitName', 'Name of the kit', true, 'Foundry Set')}
      {text('shorthand', 'Kit in shorthand', true)}
      <KitPreview shorthand={form.shorthand} />
      {text('light', 'Light at the chart: lux, EV, or what the bare meter says', true, '1/2500 f/2.8 ISO 100')}
      <fieldset className="flex gap-4 flex-wrap">
        <legend className="text-ink-3 text-[12px] mb-1">Scenes</legend>
        {SCENES.map(([scene, words]) => (
          <label key={scene} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-accent size-4"
              checked={form.scenes.includes(scene)}
              onChange={({ target }) =>
                change({
                  scenes: SCENES.map(([one]) => one).filter((one) =>
                    one === scene ? target.checked : form.scenes.includes(one),
                  ),
                })
              }
            />
            {words}
          </label>
        ))}
      </fieldset>
      {choose('protocol', 'Exposure', [
        ['matched', 'matched to bare'],
        ['locked', 'locked'],
        ['automatic', 'automatic'],
      ])}
      <p className="text-[12.5px] text-ink-3">{SCHOOLS.protocol[form.protocol]}</p>
      {choose('order', 'Order', [
        ['lightest', 'lightest first'],
        ['darkest', 'darkest first'],
        ['mirrored', 'there and back'],
      ])}
      <p className="text-[12.5px] text-ink-3">{SCHOOLS.order[form.order]}</p>
      {choose('target', 'What is shot', [
        ['stills', 'stills'],
        ['24', 'clips at 24 a second'],
        ['25', 'clips at 25 a second'],
        ['30', 'clips at 30 a second'],
        ['50', 'clips at 50 a second'],
        ['60', 'clips at 60 a second'],
      ])}
      <h2 className="!text-[14px] mt-2">The rig</h2>
      {text('fNumber', 'f-number of all takes')}
      {choose('aperture', 'Aperture', [
        ['variable', 'variable'],
        ['fixed', 'fixed'],
      ])}
      {form.aperture === 'variable' && text('widest', 'Widest f-number')}
      {text('fastest', 'Fastest shutter')}
      {text('slowest', 'Slowest shutter')}
      {text('baseIso', 'Base ISO')}
      {text('highestIso', 'Highest ISO')}
      {choose('step', 'Steps', [
        [String(1 / 3), 'thirds of a stop'],
        ['0.5', 'half stops'],
        ['1', 'whole stops'],
        ['0', 'any value'],
      ])}
      {choose('marks', 'Shutter marks', [
        ['nominal', '1/60 means 1/64'],
        ['exact', '1/60 is 1/60'],
      ])}
      {text('usableStops', 'Usable range, stops')}
      {choose('whiteBalance', 'White balance', [
        ['locked', 'locked'],
        ['automatic', 'automatic'],
      ])}
      <h2 className="!text-[14px] mt-2">The sitting</h2>
      {text('repeats', 'Pictures a take')}
      {text('bareEvery', 'Bare after every')}
      {text('ringAngles', 'Ring angles of a sweep')}
      {text('minutesPerTake', 'Minutes a take')}
      {text('batteryMinutes', 'Minutes of a battery')}
    </aside>
  );
}
