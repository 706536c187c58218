'use client';

import { PRESETS, QUALITIES, type Quality, type Weights } from '@/core/judging/ranking/rank';
import type { RankedKit } from '@/core/judging/ranking/kitAsSet';
import { Button } from '@/ui/Button';

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
      qualities: { ...weights.qualities, [quality]: Math.min(MOST, Math.max(0, Number.isFinite(value) ? value : 0)) },
    });
  const strengths = [
    ...new Set(
      kits.flatMap(({ filters }) => filters.flatMap(({ nominal }) => (nominal === null ? [] : Math.round(nominal)))),
    ),
  ]
    .filter((stops) => stops > 0)
    .sort((a, b) => a - b);
  const preset = Object.entries(PRESETS).find(
    ([, one]) => JSON.stringify(one.weights.qualities) === JSON.stringify(weights.qualities),
  )?.[0];
  return (
    <section aria-label="Weights" className="bg-sheet rounded-[10px] px-[18px] py-4">
      <h2>What counts</h2>
      <div role="group" aria-label="Presets" className="flex gap-2 mt-2">
        {Object.entries(PRESETS).map(([name, { weights: given }]) => (
          <Button
            key={name}
            look={preset === name ? 'main' : 'plain'}
            aria-pressed={preset === name}
            onClick={() => onWeights(given)}
          >
            {name[0].toUpperCase() + name.slice(1)}
          </Button>
        ))}
      </div>
      <p className="text-ink-2 text-[13px] mt-2 min-h-10">
        {preset ? PRESETS[preset as keyof typeof PRESETS].why : 'Weights of your own.'}
      </p>
      <div className="grid gap-1 mt-1">
        {QUALITIES.map((quality) => (
          <div key={quality} className="grid grid-cols-[minmax(0,1fr)_110px_62px] items-center gap-2">
            <span id={`weight-${quality}`}>{NAMES[quality]}</span>
            <input
              type="range"
              min={0}
              max={MOST}
              step={0.5}
              aria-labelledby={`weight-${quality}`}
              className="accent-ink-2 w-full"
              value={weights.qualities[quality]}
              onChange={(event) => set(quality, Number(event.target.value))}
            />
            <input
              type="number"
              min={0}
              max={MOST}
              step={0.5}
              aria-label={`Weight of ${NAMES[quality].toLowerCase()}`}
              className="field text-right px-1.5"
              value={weights.qualities[quality]}
              onChange={(event) => set(quality, Number(event.target.value))}
            />
          </div>
        ))}
      </div>
      <label className="grid gap-1 mt-3">
        <span className="text-ink-2 text-[13px]">What wasn’t measured of a kit</span>
        <select
          className="field"
          value={weights.unmeasured}
          onChange={(event) => onWeights({ ...weights, unmeasured: event.target.value as Weights['unmeasured'] })}
        >
          <option value="left out">is left out: the rest counts more</option>
          <option value="as worst">counts as the worst</option>
          <option value="as the others">counts as the mean of the others</option>
        </select>
      </label>
      <label className="grid gap-1 mt-2">
        <span className="text-ink-2 text-[13px]">A strength that other kits have and this one lacks</span>
        <select
          className="field"
          value={weights.lacking}
          onChange={(event) => onWeights({ ...weights, lacking: event.target.value as Weights['lacking'] })}
        >
          <option value="left out">is left out</option>
          <option value="as worst">counts as the worst</option>
        </select>
      </label>
      {strengths.length > 0 && (
        <fieldset className="mt-3">
          <legend className="text-ink-2 text-[13px]">How much each strength is used</legend>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(74px,1fr))] gap-2 mt-1">
            {strengths.map((stops) => (
              <label key={stops} className="grid gap-0.5">
                <span className="text-[12.5px] text-ink-3">ND{2 ** stops}</span>
                <input
                  type="number"
                  min={0}
                  max={MOST}
                  step={0.5}
                  className="field text-right px-1.5"
                  value={weights.usage[stops] ?? 1}
                  onChange={(event) =>
                    onWeights({
                      ...weights,
                      usage: {
                        ...weights.usage,
                        [stops]: Math.min(MOST, Math.max(0, Number(event.target.value) || 0)),
                      },
                    })
                  }
                />
              </label>
            ))}
          </div>
        </fieldset>
      )}
    </section>
  );
}
