'use client';

import { useState } from 'react';
import type { Control } from 'react-hook-form';
import { kitAction, rigAction } from '@/server/shelfActions';
import { Checkbox } from '@/ui/controls/Checkbox';
import { NO_LINE_NOW } from '@/ui/saving/asked';
import { KitPreview } from '../newSession/KitPreview';
import { PlanChoice, PlanText } from './planControls';
import { PlanRigFields } from './PlanRigFields';
import { PlanSchools } from './PlanSchools';
import { PlanTarget } from './PlanTarget';
import { PLAN_SCENES, withRig, type PlanForm } from './usePlanForm';

/** Kits and rigs that can be taken from the shelf. */
export interface ShelfNames {
  kits: { id: string; name: string }[];
  rigs: { id: string; name: string }[];
}

/** What is planned, as a person types it. */
export function PlanFields({
  control,
  form,
  change,
  shelf,
}: {
  control: Control<PlanForm>;
  form: PlanForm;
  change: (part: Partial<PlanForm>) => void;
  shelf: ShelfNames;
}) {
  const [problem, setProblem] = useState<string | null>(null);

  async function take<T>(id: string, ask: (id: string) => Promise<T | null>, gone: string): Promise<T | null> {
    const found = id === '' ? null : await ask(id).catch(() => undefined);
    setProblem(found === undefined ? NO_LINE_NOW : found === null && id !== '' ? gone : null);
    return found ?? null;
  }
  async function takeKit(id: string) {
    const kit = await take(id, kitAction, 'This kit is not on the shelf any more.');
    if (kit || id === '') change({ kit });
  }
  async function takeRig(id: string) {
    const rig = await take(id, rigAction, 'This rig is not on the shelf any more.');
    if (rig || id === '') change(withRig(form, rig));
  }

  return (
    <aside aria-label="What is planned" className="bg-sheet rounded-sheet p-[18px] grid gap-2.5 print:hidden">
      <PlanText control={control} name="title" label="Title" wide placeholder="Bench, first sitting" />
      {shelf.kits.length > 0 && (
        <FromShelf label="Kit" entries={shelf.kits} chosen={form.kit?.name} onChoose={(id) => void takeKit(id)} />
      )}
      {form.kit ? (
        <p className="text-ink-2 text-small">
          {form.kit.filters.map((filter) => filter.name ?? filter.id).join(', ') || 'It has no filters yet.'}
        </p>
      ) : (
        <>
          <PlanText control={control} name="kitName" label="Name of the kit" wide placeholder="Foundry Set" />
          <PlanText control={control} name="shorthand" label="Kit in shorthand" wide />
          <KitPreview shorthand={form.shorthand} />
        </>
      )}
      <PlanText
        control={control}
        name="light"
        label="Light at the chart: lux, EV, or what the bare meter says"
        wide
        placeholder="1/2500 f/2.8 ISO 100"
      />
      <fieldset className="flex gap-4 flex-wrap">
        <legend className="text-ink-3 text-small mb-1">Scenes</legend>
        {PLAN_SCENES.map(([scene, words]) => (
          <Checkbox
            key={scene}
            checked={form.scenes.includes(scene)}
            onChange={(on) =>
              change({
                scenes: PLAN_SCENES.map(([one]) => one).filter((one) =>
                  one === scene ? on : form.scenes.includes(one),
                ),
              })
            }
          >
            {words}
          </Checkbox>
        ))}
      </fieldset>
      <PlanSchools form={form} change={change} />
      <PlanTarget control={control} form={form} change={change} />
      <h2 className="!text-body mt-2">The rig</h2>
      {shelf.rigs.length > 0 && (
        <FromShelf label="Rig" entries={shelf.rigs} chosen={form.rig?.camera} onChoose={(id) => void takeRig(id)} />
      )}
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
      <PlanRigFields control={control} form={form} change={change} />
      <h2 className="!text-body mt-2">The sitting</h2>
      <Checkbox checked={form.darkBares} onChange={(darkBares) => change({ darkBares })}>
        {form.checked ? 'a darker bare picture where it is needed' : 'two darker bare pictures'}
      </Checkbox>
      <p className="text-small text-ink-3">
        {form.checked
          ? 'The camera’s check goes along; where exposures are locked, one picture shows that it is still set so.'
          : 'One and three stops darker than bare: cameras bend the curve that their files tell, and these two show how. Needless with raw or log.'}
      </p>
      <PlanText control={control} name="repeats" label="Pictures a take" />
      <PlanText control={control} name="bareEvery" label="Bare after every" />
      <PlanText control={control} name="ringAngles" label="Ring angles of a sweep" />
      <PlanText control={control} name="minutesPerTake" label="Minutes a take" />
      <PlanText control={control} name="batteryMinutes" label="Minutes of a battery" />
    </aside>
  );
}

/** A kit or rig of the shelf, or one that is typed here. */
function FromShelf({
  label,
  entries,
  chosen,
  onChoose,
}: {
  label: string;
  entries: readonly { id: string; name: string }[];
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) {
  return (
    <PlanChoice
      label={label}
      value={entries.find((one) => one.name === chosen)?.id ?? ''}
      options={[['', 'typed here'], ...entries.map(({ id, name }) => [id, name] as const)]}
      onChange={onChoose}
    />
  );
}
