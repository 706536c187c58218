'use client';

import { PRESETS, QUALITIES, type Quality, type Weights } from '@/core/judging/ranking/rank';
import type { RankedKit } from '@/core/judging/ranking/kitAsSet';
import { Labelled, NumberInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Choice } from '@/ui/controls/Toggle';

const NAMES: Record<Quality, string> = {
  strength: 'Strength as labelled',
  steps: 'Even steps',
  cast: 'Little cast',
  evenness: 'The same cast in all',
  sharpness: 'Sharpness kept',
  corners: 'Clean corners',
  polarizer: 'Polarizer',
  handling: 'Handling',
  price: 'Price per useful filter',
};
const MOST = 10;
const within = (value: number) => Math.min(MOST, Math.max(0, Number.isFinite(value) ? value : 0));
const PRESET_NAMES = Object.keys(PRESETS) as (keyof typeof PRESETS)[];
const UNMEASURED: readonly Option<Weights['unmeasured']>[] = [
  ['left out', 'is left out: the rest counts more'],
  ['as worst', 'counts as the worst'],
  ['as the others', 'counts as the mean of the others'],
];
const LACKING: readonly Option<Weights['lacking']>[] = [
  ['left out', 'is left out'],
  ['as worst', 'counts as the worst'],
];

/** What counts how much: a slider and a number for each quality, presets, and what becomes of gaps. */
export function WeightsPanel({
  weights,
  onWeights,
  kits,
}: {
  weights: Weights;
  onWeights: (next: Weights) => void;
  kits: readonly RankedKit[];
}) {
  const set = (quality: Quality, value: number) =>
    onWeights({
      ...weights,
      qualities: { ...weights.qualities, [quality]: within(value) },
    });
  const strengths = [
    ...new Set(
      kits.flatMap(({ filters }) => filters.flatMap(({ nominal }) => (nominal === null ? [] : Math.round(nominal)))),
    ),
  ]
    .filter((stops) => stops > 0)
    .sort((a, b) => a - b);
  const preset = PRESET_NAMES.find(
    (name) => JSON.stringify(PRESETS[name].weights.qualities) === JSON.stringify(weights.qualities),
  );
  return (
    <section aria-label="Weights" className="bg-sheet rounded-sheet px-[18px] py-4">
      <h2>What counts</h2>
      <Choice
        label="Presets"
        className="flex gap-1 mt-2"
        value={preset ?? null}
        entries={PRESET_NAMES.map((name) => ({ value: name, words: name[0].toUpperCase() + name.slice(1) }))}
        onChange={(name) => onWeights(PRESETS[name].weights)}
      />
      <p className="text-ink-2 text-label mt-2 min-h-10">{preset ? PRESETS[preset].why : 'Weights of your own.'}</p>
      <div className="grid gap-1 mt-1">
        {QUALITIES.map((quality) => (
          <div key={quality} className="grid grid-cols-[minmax(0,1fr)_110px_62px] items-center gap-2">
            <span id={`weight-${quality}`}>{NAMES[quality]}</span>
            <Slider
              min={0}
              max={MOST}
              step={0.5}
              labelledBy={`weight-${quality}`}
              value={weights.qualities[quality]}
              onChange={(value) => set(quality, value)}
            />
            <NumberInput
              max={MOST}
              step={0.5}
              label={`Weight of ${NAMES[quality].toLowerCase()}`}
              value={weights.qualities[quality]}
              onChange={(value) => set(quality, value)}
            />
          </div>
        ))}
      </div>
      <Labelled words="What wasn’t measured of a kit" className="mt-3">
        <Select
          value={weights.unmeasured}
          options={UNMEASURED}
          onChange={(unmeasured) => onWeights({ ...weights, unmeasured })}
        />
      </Labelled>
      <Labelled words="A strength that other kits have and this one lacks" className="mt-2">
        <Select value={weights.lacking} options={LACKING} onChange={(lacking) => onWeights({ ...weights, lacking })} />
      </Labelled>
      {strengths.length > 0 && (
        <fieldset className="mt-3">
          <legend className="text-ink-2 text-label">How much each strength is used</legend>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(74px,1fr))] gap-2 mt-1">
            {strengths.map((stops) => (
              <Labelled key={stops} words={`ND${2 ** stops}`}>
                <NumberInput
                  max={MOST}
                  step={0.5}
                  value={weights.usage[stops] ?? 1}
                  onChange={(value) => onWeights({ ...weights, usage: { ...weights.usage, [stops]: within(value) } })}
                />
              </Labelled>
            ))}
          </div>
        </fieldset>
      )}
    </section>
  );
}
