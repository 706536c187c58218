'use client';

import { useState } from 'react';
import { kitAction, rigAction } from '@/server/shelfActions';
import { SCHOOLS } from '@/core/sitting/planning/warnings';
import type { PlanScene } from '@/core/sitting/planning/plan';
import { KitPreview } from '../newSession/KitPreview';
import { withRig, type PlanForm } from './usePlanForm';

/** Kits and rigs that can be taken from the shelf. */
export interface ShelfNames {
  kits: { id: string; name: string }[];
  rigs: { id: string; name: string }[];
}

const SCENES: readonly [PlanScene, string][] = [
  ['chart', 'chart'],
  ['flat', 'even wall'],
  ['screen', 'white screen'],
];

/** What is planned, as a person types it. */
export function PlanFields({
  form,
  change,
  shelf,
}: {
  form: PlanForm;
  change: (part: Partial<PlanForm>) => void;
  shelf: ShelfNames;
}) {
  const [problem, setProblem] = useState<string | null>(null);

  async function takeKit(id: string) {
    if (id === '') return change({ kit: null });
    const kit = await kitAction(id);
    setProblem(kit ? null : 'This kit is not on the shelf any more.');
    if (kit) change({ kit });
  }
  async function takeRig(id: string) {
    const rig = id === '' ? null : await rigAction(id);
    setProblem(rig || id === '' ? null : 'This rig is not on the shelf any more.');
    change(withRig(form, rig));
  }

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
      {shelf.kits.length > 0 && (
        <FromShelf label="Kit" none="typed here" entries={shelf.kits} chosen={form.kit?.name} onChoose={takeKit} />
      )}
      {form.kit ? (
        <p className="text-ink-2 text-[12.5px]">
          {form.kit.filters.map((filter) => filter.name ?? filter.id).join(', ') || 'It has no filters yet.'}
        </p>
      ) : (
        <>
          {text('kitName', 'Name of the kit', true, 'Foundry Set')}
          {text('shorthand', 'Kit in shorthand', true)}
          <KitPreview shorthand={form.shorthand} />
        </>
      )}
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
      {choose('exposeFor', 'Exposed for', [
        ['middle', 'the meter’s gray'],
        ['darker', 'darker'],
        ['brightest', 'the brightest part'],
      ])}
      <p className="text-[12.5px] text-ink-3">{SCHOOLS.exposeFor[form.exposeFor]}</p>
      {choose('target', 'What is shot', [
        ['stills', 'stills'],
        ['clips', 'clips'],
        ['hyperlapse', 'a hyperlapse'],
        ['long exposure', 'a long exposure'],
      ])}
      {form.target === 'clips' && (
        <>
          <label className="flex items-center justify-between gap-2">
            <span className="text-ink-2">Frames a second</span>
            <input
              className="field w-[104px] text-right"
              list="frame-rates"
              value={form.frameRate}
              onChange={(event) => change({ frameRate: event.target.value })}
            />
            <datalist id="frame-rates">
              {(form.rig?.frameRates ?? [24, 25, 30, 50, 60]).map((rate) => (
                <option key={rate} value={rate} />
              ))}
            </datalist>
          </label>
          {text('angle', 'Shutter angle, °')}
        </>
      )}
      {form.target === 'hyperlapse' && (
        <>
          {text('interval', 'Seconds between pictures')}
          {text('angle', 'Open for, ° of the interval')}
        </>
      )}
      {form.target === 'long exposure' && text('seconds', 'Open for, seconds')}
      <h2 className="!text-[14px] mt-2">The rig</h2>
      {shelf.rigs.length > 0 && (
        <FromShelf label="Rig" none="typed here" entries={shelf.rigs} chosen={form.rig?.camera} onChoose={takeRig} />
      )}
      {problem && (
        <p role="alert" className="text-failure">
          {problem}
        </p>
      )}
      {form.rig &&
        form.rig.lenses.length > 1 &&
        form.scenes.map((scene) => (
          <label key={scene} className="flex items-center justify-between gap-2">
            <span className="text-ink-2">Lens for the {SCENES.find(([one]) => one === scene)![1]}</span>
            <select
              className="field w-[164px]"
              value={form.sceneLens[scene] ?? 0}
              onChange={({ target }) => change({ sceneLens: { ...form.sceneLens, [scene]: Number(target.value) } })}
            >
              {form.rig!.lenses.map((lens, i) => (
                <option key={lens.name + String(i)} value={i}>
                  {lens.name}
                </option>
              ))}
            </select>
          </label>
        ))}
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

function FromShelf({
  label,
  none,
  entries,
  chosen,
  onChoose,
}: {
  label: string;
  none: string;
  entries: { id: string; name: string }[];
  chosen: string | undefined;
  onChoose: (id: string) => Promise<void>;
}) {
  return (
    <label className="flex items-center justify-between gap-2">
      <span className="text-ink-2">{label}</span>
      <select
        className="field w-[200px]"
        value={entries.find((one) => one.name === chosen)?.id ?? ''}
        onChange={({ target }) => void onChoose(target.value)}
      >
        <option value="">{none}</option>
        {entries.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
