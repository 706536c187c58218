'use client';

import { useState } from 'react';
import { keepBoundsAction } from '@/server/judgeActions';
import { boundsOf, DEFAULT_BANDS, type Bounds } from '@/core/judging/rating/bands';
import { Button } from '@/ui/Button';
import { NumberInput } from '@/ui/controls/fields';
import { notAnswered } from '@/ui/saving/asked';

type Quality = Exclude<keyof Bounds, 'mergedBelow'>;

const ROWS: readonly { quality: Quality; name: string; unit: string; step: number }[] = [
  { quality: 'strength', name: 'Strength', unit: 'stop off the label', step: 0.01 },
  { quality: 'cast', name: 'Cast', unit: 'ΔE00 from gray', step: 0.1 },
  { quality: 'sharpness', name: 'Sharpness', unit: 'share lost', step: 0.01 },
  { quality: 'corners', name: 'Corners', unit: 'stop darker', step: 0.01 },
  { quality: 'extinction', name: 'Polarizer', unit: 'stops of extinction', step: 0.5 },
];
const DEFAULTS = boundsOf(DEFAULT_BANDS);
const FIELD = 'w-[92px] text-right';
const tidy = (value: number) => Number(value.toFixed(4));

/** The limits at which words change, for all sessions at once. */
export function Bands({ inForce }: { inForce: Bounds }) {
  const [bounds, setBounds] = useState(inForce);
  const [kept, setKept] = useState(inForce);
  const [said, setSaid] = useState<{ ok: boolean; words: string } | null>(null);
  const changed = JSON.stringify(bounds) !== JSON.stringify(kept);
  const usual = JSON.stringify(bounds) === JSON.stringify(DEFAULTS);

  async function keep(next: Bounds) {
    const isUsual = JSON.stringify(next) === JSON.stringify(DEFAULTS);
    const result = await keepBoundsAction(isUsual ? null : next).catch(notAnswered);
    if (result.ok) setKept(next);
    setSaid(
      result.ok
        ? { ok: true, words: 'Kept. Every verdict follows these bounds now.' }
        : { ok: false, words: result.error },
    );
  }
  const set = (quality: Quality, index: number, value: number) =>
    setBounds({ ...bounds, [quality]: bounds[quality].map((one, i) => (i === index ? value : one)) });

  return (
    <main id="main" className="w-full max-w-[860px] mx-auto px-[18px] py-7">
      <h1>Rating limits</h1>
      <p className="text-ink-2 text-lead mt-1 mb-5 max-w-[64ch]">
        A verdict gets a word only when its whole ± lies inside that word’s bounds. Figures stay as they were measured;
        words and scores follow at once, in every session.
      </p>
      <table className="w-full border-collapse">
        <tbody>
          {ROWS.map(({ quality, name, unit, step }) => (
            <tr key={quality} className="border-b border-rule align-baseline">
              <th scope="row" className="text-left py-2.5 pr-4 font-strong whitespace-nowrap">
                {name} <span className="unit font-normal block">{unit}</span>
              </th>
              <td className="py-2.5">
                <span className="flex flex-wrap items-baseline gap-x-2 gap-y-1.5">
                  {DEFAULT_BANDS[quality].map(({ word }, i) => (
                    <span key={word} className="flex items-baseline gap-2">
                      <span className="whitespace-nowrap">{word}</span>
                      {i < bounds[quality].length && (
                        <NumberInput
                          className={FIELD}
                          step={step}
                          label={`${name}: ${word} up to`}
                          value={tidy(bounds[quality][i])}
                          onChange={(value) => set(quality, i, value)}
                        />
                      )}
                    </span>
                  ))}
                </span>
              </td>
            </tr>
          ))}
          <tr className="align-baseline">
            <th scope="row" className="text-left py-2.5 pr-4 font-strong">
              Steps <span className="unit font-normal block">of the labelled step</span>
            </th>
            <td className="py-2.5">
              <span className="flex items-baseline gap-2">
                merged below
                <NumberInput
                  className={FIELD}
                  step={0.05}
                  label="Steps: merged below"
                  value={bounds.mergedBelow}
                  onChange={(mergedBelow) => setBounds({ ...bounds, mergedBelow })}
                />
              </span>
            </td>
          </tr>
        </tbody>
      </table>
      <div className="flex items-center gap-3 flex-wrap mt-5">
        <Button look="main" disabled={!changed} onClick={() => void keep(bounds)}>
          Keep these bounds
        </Button>
        <Button
          look="plain"
          disabled={usual && !changed}
          onClick={() => {
            setBounds(DEFAULTS);
            void keep(DEFAULTS);
          }}
        >
          Back to the usual ones
        </Button>
        <p role={said && !said.ok ? 'alert' : 'status'} className={said && !said.ok ? 'text-failure' : 'text-ink-2'}>
          {said?.words ?? (usual ? 'These are the usual bounds.' : '')}
        </p>
      </div>
    </main>
  );
}
