'use client';

import { parseShutter } from '@/core/exposure';

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
