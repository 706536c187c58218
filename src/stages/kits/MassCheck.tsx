'use client';

import { useState } from 'react';
import { checkMass } from '@/core/sitting/kits/mass';
import type { KeptFilter } from '@/core/sitting/kits/keptKit';

export interface KnownAircraft {
  rig: string;
  massGrams: number;
  limitGrams: number;
}

/** Whether a filter lifts the aircraft over its class limit. */
export function MassCheck({
  filters,
  aircraft,
}: {
  filters: readonly KeptFilter[];
  aircraft: readonly KnownAircraft[];
}) {
  const [mass, setMass] = useState(aircraft[0] ? String(aircraft[0].massGrams) : '');
  const [limit, setLimit] = useState(aircraft[0] ? String(aircraft[0].limitGrams) : '');
  const [massGrams, limitGrams] = [mass, limit].map((text) => Number(text.replace(',', '.')));
  const found = massGrams > 0 && limitGrams > 0 ? checkMass(filters, { massGrams, limitGrams }) : null;
  const nameOf = (id: string) => filters.find((one) => one.id === id)?.name ?? id;
  const grams = (value: number) => `${value.toFixed(1)} g`;
  return (
    <section aria-label="Mass on an aircraft" className="mt-7">
      <h2>Mass on an aircraft</h2>
      <div className="flex gap-4 flex-wrap items-end mt-2">
        {aircraft.length > 0 && (
          <label className="grid gap-1">
            <span className="text-ink-3 text-[12px]">Rig</span>
            <select
              className="field"
              onChange={({ target }) => {
                const one = aircraft[Number(target.value)];
                setMass(String(one.massGrams));
                setLimit(String(one.limitGrams));
              }}
            >
              {aircraft.map((one, i) => (
                <option key={one.rig + String(i)} value={i}>
                  {one.rig}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="grid gap-1">
          <span className="text-ink-3 text-[12px]">Ready to fly, without a filter, g</span>
          <input
            className="field w-[110px] text-right"
            value={mass}
            onChange={(event) => setMass(event.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="text-ink-3 text-[12px]">Limit of its class, g</span>
          <input
            className="field w-[110px] text-right"
            value={limit}
            onChange={(event) => setLimit(event.target.value)}
          />
        </label>
        <p className={`pb-2 ${found && found.over.length > 0 ? 'text-warning' : ''}`} role="status">
          {!found
            ? 'Type both to check.'
            : found.over.length > 0
              ? `Over the limit: ${found.over.map((one) => `${nameOf(one.filter)} by ${grams(one.grams)}`).join(', ')}.`
              : found.left === null
                ? 'No filter’s mass is known: weigh them and fill in the column.'
                : `The heaviest filter leaves ${grams(found.left)} under the limit.`}
          {found && found.left !== null && found.unknown.length > 0 && (
            <span className="text-ink-2"> Not weighed: {found.unknown.map(nameOf).join(', ')}.</span>
          )}
        </p>
      </div>
      <p className="text-ink-3 text-[12.5px] mt-2 max-w-[72ch]">
        Which limit applies to you, local rules and the maker’s manual say. Weigh the aircraft as it takes off, with
        battery, card and guards.
      </p>
    </section>
  );
}
