'use client';

import { Plus, X } from 'lucide-react';
import { Link } from '@/ui/Link';
import { useState } from 'react';
import { keepRigAction } from '@/server/shelfActions';
import { keptRigSchema, type KeptLens, type KeptRig } from '@/core/sitting/kits/keptRig';
import type { Response } from '@/core/session/schema';
import { Button, buttonClass } from '@/ui/Button';
import { Labelled, MaybeNumberField, NumberField, NumbersField, ShutterField } from './fields';
import { KeptNote } from './KeptNote';
import { useKept } from '@/ui/useKept';

const STEPS: readonly [KeptRig['step'], string][] = [
  [1 / 3, 'thirds of a stop'],
  [0.5, 'half stops'],
  [1, 'whole stops'],
  [0, 'any value'],
];
const RESPONSES: readonly [Response['kind'], string][] = [
  ['file', 'as the file says'],
  ['srgb', 'sRGB'],
  ['bt709', 'BT.709'],
  ['hlg', 'HLG'],
  ['pq', 'PQ'],
  ['linear', 'linear'],
  ['bracket', 'recovered from a bare bracket'],
];

/** One rig: a camera with its lenses, and what can be set on it. */
export function RigEditor({ id, revision, rig: first }: { id: string; revision: number; rig: KeptRig }) {
  const { item: rig, change: keep, state, problem } = useKept(first, id, revision, keepRigAction);
  const [wrong, setWrong] = useState<string | null>(null);
  // Lenses and profiles have no ids of their own; fields that keep their text need a name for each.
  const [keys, setKeys] = useState(() => ({
    lenses: first.lenses.map((_, i) => i),
    profiles: first.profiles.map((_, i) => i),
    next: 1000,
  }));

  /** Only what is a rig is kept; what is wrong with it is said. */
  function change(part: Partial<KeptRig>) {
    const next = { ...rig, ...part };
    const parsed = keptRigSchema.safeParse(next);
    setWrong(parsed.success ? null : parsed.error.issues[0].message);
    keep(next);
  }

  function setLens(i: number, part: Partial<KeptLens>) {
    change({ lenses: rig.lenses.map((lens, k) => (k === i ? { ...lens, ...part } : lens)) });
  }

  function add(list: 'lenses' | 'profiles') {
    setKeys((now) => ({ ...now, [list]: [...now[list], now.next], next: now.next + 1 }));
    if (list === 'lenses')
      change({
        lenses: [
          ...rig.lenses,
          { name: `Lens ${rig.lenses.length + 1}`, aperture: 'variable', widest: 2.8, fixedFocus: false },
        ],
      });
    else
      change({
        profiles: [
          ...rig.profiles,
          { name: `Profile ${rig.profiles.length + 1}`, response: { kind: 'file' }, bitDepth: 10 },
        ],
      });
  }

  function remove(list: 'lenses' | 'profiles', i: number) {
    setKeys((now) => ({ ...now, [list]: now[list].filter((_, k) => k !== i) }));
    change({ [list]: (rig[list] as unknown[]).filter((_, k) => k !== i) });
  }

  const row = 'flex gap-3 flex-wrap items-end mt-2';
  return (
    <main id="main" className="px-[18px] py-[18px] w-full max-w-[1180px] mx-auto">
      <div className="flex justify-between gap-4 items-start flex-wrap">
        <h1>{rig.camera || 'A rig without a name'}</h1>
        <div className="flex gap-3 items-center flex-wrap">
          <KeptNote state={state} problem={wrong ?? problem} />
          <Link href={`/plan?rig=${id}`} className={buttonClass('main')}>
            Plan a sitting
          </Link>
        </div>
      </div>
      <section aria-label="Camera">
        <div className={row}>
          <Labelled words="Camera">
            <input
              className="field w-[220px]"
              value={rig.camera}
              onChange={({ target }) => change({ camera: target.value })}
            />
          </Labelled>
          <NumberField label="Base ISO" value={rig.baseIso} onChange={(baseIso) => change({ baseIso })} />
          <NumberField label="Highest ISO" value={rig.highestIso} onChange={(highestIso) => change({ highestIso })} />
          <Labelled words="Steps of its dials">
            <select
              className="field w-[150px]"
              value={String(rig.step)}
              onChange={({ target }) => change({ step: STEPS.find(([step]) => String(step) === target.value)![0] })}
            >
              {STEPS.map(([step, words]) => (
                <option key={words} value={String(step)}>
                  {words}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled words="Shutter marks">
            <select
              className="field w-[150px]"
              value={rig.shutterMarks}
              onChange={({ target }) => change({ shutterMarks: target.value as KeptRig['shutterMarks'] })}
            >
              <option value="nominal">1/60 means 1/64</option>
              <option value="exact">1/60 is 1/60</option>
            </select>
          </Labelled>
        </div>
        <div className={row}>
          {(['stills', 'video'] as const).map((what) => (
            <div key={what} className="flex gap-3">
              <ShutterField
                label={`Fastest, ${what === 'stills' ? 'stills' : 'clips'}`}
                value={rig[what].fastest}
                onChange={(fastest) => change({ [what]: { ...rig[what], fastest } })}
              />
              <ShutterField
                label={`Slowest, ${what === 'stills' ? 'stills' : 'clips'}`}
                value={rig[what].slowest}
                onChange={(slowest) => change({ [what]: { ...rig[what], slowest } })}
              />
            </div>
          ))}
          <NumbersField label="Frame rates" value={rig.frameRates} onChange={(frameRates) => change({ frameRates })} />
          <MaybeNumberField
            label="Battery, minutes"
            value={rig.batteryMinutes}
            onChange={(batteryMinutes) => change({ batteryMinutes })}
          />
        </div>
      </section>
      <section aria-label="Lenses" className="mt-7">
        <h2>Lenses</h2>
        {rig.lenses.map((lens, i) => (
          <div
            key={keys.lenses[i]}
            role="group"
            aria-label={`Lens ${i + 1}`}
            className={`${row} border-b border-rule pb-3`}
          >
            <Labelled words="Lens">
              <input
                className="field w-[170px]"
                value={lens.name}
                onChange={({ target }) => setLens(i, { name: target.value })}
              />
            </Labelled>
            <Labelled words="Aperture">
              <select
                className="field w-[104px]"
                value={lens.aperture}
                onChange={({ target }) => setLens(i, { aperture: target.value as KeptLens['aperture'] })}
              >
                <option value="variable">variable</option>
                <option value="fixed">fixed</option>
              </select>
            </Labelled>
            <NumberField
              label={lens.aperture === 'fixed' ? 'f-number' : 'Widest f-number'}
              value={lens.widest}
              onChange={(widest) => setLens(i, { widest })}
            />
            {lens.aperture === 'variable' && (
              <MaybeNumberField
                label="Narrowest"
                value={lens.narrowest}
                width="w-[84px]"
                onChange={(narrowest) => setLens(i, { narrowest })}
              />
            )}
            <MaybeNumberField
              label="Focal length, mm"
              value={lens.focalLengthMm}
              onChange={(focalLengthMm) => setLens(i, { focalLengthMm })}
            />
            <MaybeNumberField
              label="Field of view, °"
              value={lens.fieldOfViewDegrees}
              onChange={(fieldOfViewDegrees) => setLens(i, { fieldOfViewDegrees })}
            />
            <label className="flex items-center gap-1.5 pb-2">
              <input
                type="checkbox"
                className="accent-accent size-4"
                checked={lens.fixedFocus}
                onChange={({ target }) => setLens(i, { fixedFocus: target.checked })}
              />
              fixed focus
            </label>
            {rig.lenses.length > 1 && (
              <button
                type="button"
                aria-label={`Remove ${lens.name}`}
                className="p-2 mb-0.5 rounded-md text-ink-3 hover:text-ink hover:bg-sheet"
                onClick={() => remove('lenses', i)}
              >
                <X size={16} aria-hidden />
              </button>
            )}
          </div>
        ))}
        <Button look="quiet" className="mt-2 -ml-3" onClick={() => add('lenses')}>
          <Plus size={16} aria-hidden /> Add a lens
        </Button>
      </section>
      <section aria-label="Profiles" className="mt-5">
        <h2>Profiles</h2>
        <p className="text-ink-2 mt-1">How the camera’s codes become light; the first is what a plan reckons with.</p>
        {rig.profiles.map((profile, i) => (
          <div key={keys.profiles[i]} role="group" aria-label={`Profile ${i + 1}`} className={row}>
            <Labelled words="Profile">
              <input
                className="field w-[170px]"
                value={profile.name}
                onChange={({ target }) =>
                  change({ profiles: rig.profiles.map((one, k) => (k === i ? { ...one, name: target.value } : one)) })
                }
              />
            </Labelled>
            <Labelled words="Response">
              <select
                className="field w-[220px]"
                value={profile.response.kind}
                onChange={({ target }) =>
                  change({
                    profiles: rig.profiles.map((one, k) =>
                      k === i ? { ...one, response: { kind: target.value } as Response } : one,
                    ),
                  })
                }
              >
                {RESPONSES.map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled words="Bits">
              <select
                className="field w-[70px]"
                value={profile.bitDepth}
                onChange={({ target }) =>
                  change({
                    profiles: rig.profiles.map((one, k) =>
                      k === i ? { ...one, bitDepth: Number(target.value) } : one,
                    ),
                  })
                }
              >
                {[8, 10, 12, 14, 16].map((bits) => (
                  <option key={bits}>{bits}</option>
                ))}
              </select>
            </Labelled>
            <button
              type="button"
              aria-label={`Remove ${profile.name}`}
              className="p-2 mb-0.5 rounded-md text-ink-3 hover:text-ink hover:bg-sheet"
              onClick={() => remove('profiles', i)}
            >
              <X size={16} aria-hidden />
            </button>
          </div>
        ))}
        <Button look="quiet" className="mt-2 -ml-3" onClick={() => add('profiles')}>
          <Plus size={16} aria-hidden /> Add a profile
        </Button>
      </section>
      <section aria-label="Aircraft" className="mt-5">
        <h2>Aircraft</h2>
        <label className="flex items-center gap-1.5 mt-1">
          <input
            type="checkbox"
            className="accent-accent size-4"
            checked={rig.aircraft !== undefined}
            onChange={({ target }) =>
              change({ aircraft: target.checked ? { massGrams: 249, limitGrams: 250 } : undefined })
            }
          />
          The camera flies
        </label>
        {rig.aircraft && (
          <div className={row}>
            <NumberField
              label="Ready to fly, without a filter, g"
              width="w-[150px]"
              value={rig.aircraft.massGrams}
              onChange={(massGrams) => change({ aircraft: { ...rig.aircraft!, massGrams } })}
            />
            <NumberField
              label="Limit of its class, g"
              width="w-[150px]"
              value={rig.aircraft.limitGrams}
              onChange={(limitGrams) => change({ aircraft: { ...rig.aircraft!, limitGrams } })}
            />
          </div>
        )}
        <p className="text-ink-3 text-[12.5px] mt-2 max-w-[72ch]">
          A kit’s page checks each filter’s mass against this limit. Local rules, licensed practice and the maker’s
          manual come first.
        </p>
      </section>
    </main>
  );
}
