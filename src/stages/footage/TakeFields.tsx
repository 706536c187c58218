'use client';

import { parseShutter } from '@/core/formulas/optics/exposure';
import { parseTurn } from '@/core/sitting/intake/turnText';
import type { FilterKind } from '@/core/session/notation';
import { polarizes } from '@/core/session/polarizing';

const BRACKET = ' bracket';

/** Which filter was on; "bare" for none; where brackets can be told, "bare, of the bracket". */
export function FilterSelect({
  label,
  value,
  filters,
  bracket,
  onChange,
}: {
  label: string;
  value: string | null | undefined;
  filters: readonly { id: string; name?: string }[];
  bracket?: boolean;
  onChange: (filter: string | null, bracket: boolean) => void;
}) {
  return (
    <select
      aria-label={label}
      className={`field w-full min-w-[104px] ${value === undefined ? 'border-warning' : ''}`}
      value={value === undefined ? '?' : bracket ? BRACKET : (value ?? '')}
      onChange={({ target }) =>
        onChange(target.value === '' || target.value === BRACKET ? null : target.value, target.value === BRACKET)
      }
    >
      {value === undefined && <option value="?">choose …</option>}
      <option value="">bare</option>
      {bracket !== undefined && <option value={BRACKET}>bare, of the bracket</option>}
      {filters.map((filter) => (
        <option key={filter.id} value={filter.id}>
          {filter.name ?? filter.id}
        </option>
      ))}
    </select>
  );
}

export interface SettingText {
  ringDegrees?: string;
  mark?: string;
  turn?: string;
}

/** Which settings a kit's filters have. */
export function settingColumns(filters: readonly { kind: FilterKind }[]): { ring: boolean; mark: boolean } {
  return {
    ring: filters.some(polarizes),
    mark: filters.some(({ kind }) => kind === 'variable-nd'),
  };
}

/** Ring angle and mark as cells of a table row, where the session has filters that turn. */
export function SettingFields({
  label,
  value,
  columns,
  onChange,
}: {
  label: string;
  value: SettingText;
  columns: { ring: boolean; mark: boolean; turn?: boolean };
  onChange: (change: SettingText) => void;
}) {
  const number = (text: string) => text.replace(',', '.').replace(/[^-\d.]/g, '');
  return (
    <>
      {columns.ring && (
        <td className="pr-3">
          <input
            aria-label={`Ring angle of ${label}, degrees`}
            className="field w-[64px]"
            inputMode="decimal"
            placeholder="–"
            value={value.ringDegrees ?? ''}
            onChange={(event) => onChange({ ringDegrees: number(event.target.value) })}
          />
        </td>
      )}
      {columns.mark && (
        <td className="pr-3">
          <input
            aria-label={`Mark of ${label}`}
            className="field w-[56px]"
            inputMode="decimal"
            placeholder="–"
            value={value.mark ?? ''}
            onChange={(event) => onChange({ mark: number(event.target.value) })}
          />
        </td>
      )}
      {columns.turn && (
        <td className="pr-3">
          <input
            aria-label={`Headings of ${label}, where the camera turned about`}
            aria-invalid={Boolean(value.turn) && parseTurn(value.turn!) === null}
            className="field w-[84px] aria-invalid:border-failure"
            placeholder="–"
            value={value.turn ?? ''}
            onChange={(event) => onChange({ turn: event.target.value })}
          />
        </td>
      )}
    </>
  );
}

interface ExposureText {
  shutter: string;
  iso: string;
  fNumber: string;
}

/** Shutter, ISO and f-number as cells of a table row. */
export function ExposureFields({
  label,
  value,
  withAperture,
  empty,
  onChange,
}: {
  label: string;
  value: ExposureText;
  withAperture: boolean;
  /** What an empty field stands for; examples are shown where nothing else knows. */
  empty?: string;
  onChange: (change: Partial<ExposureText>) => void;
}) {
  const number = (text: string) => text.replace(',', '.').replace(/[^\d.]/g, '');
  return (
    <>
      <td className="pr-3">
        <input
          aria-label={`Shutter of ${label}`}
          aria-invalid={value.shutter !== '' && parseShutter(value.shutter) === null}
          className="field w-[104px] aria-invalid:border-failure"
          placeholder={empty ?? '1/2000'}
          value={value.shutter}
          onChange={(event) => onChange({ shutter: event.target.value.trim() })}
        />
      </td>
      <td className="pr-3">
        <input
          aria-label={`ISO of ${label}`}
          className="field w-[76px]"
          inputMode="decimal"
          placeholder={empty ?? '100'}
          value={value.iso}
          onChange={(event) => onChange({ iso: number(event.target.value) })}
        />
      </td>
      <td className="pr-3">
        {withAperture && (
          <input
            aria-label={`f-number of ${label}`}
            className="field w-[70px]"
            inputMode="decimal"
            placeholder={empty ?? '2.8'}
            value={value.fNumber}
            onChange={(event) => onChange({ fNumber: number(event.target.value) })}
          />
        )}
      </td>
    </>
  );
}
