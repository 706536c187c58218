'use client';

import { useController, type FieldPathByValue, type FieldValues, type Control } from 'react-hook-form';
import { Checkbox } from './Checkbox';
import { Labelled, MaybeNumberField, NumberField, NumbersField, ShutterField, TextInput } from './fields';
import { Select, type Option } from './Select';

/** The keys that a schema names, without the unknown ones that it keeps: a form has fields for those alone. */
export type Named<T> = T extends readonly (infer U)[]
  ? Named<U>[]
  : T extends object
    ? { [K in keyof T as string extends K ? never : K]: Named<T[K]> }
    : T;

/* Fields that may be missing lie on optional paths, whose own values may be missing too. */
interface FieldOf<V extends FieldValues, T> {
  control: Control<V>;
  name: FieldPathByValue<V, T> | FieldPathByValue<V, T | undefined>;
  label: string;
  width?: string;
}

/** The controls of `fields.tsx` as fields of a form: value, change and fault are the form's. */
function useField<V extends FieldValues, T>(
  control: Control<V>,
  name: FieldPathByValue<V, T> | FieldPathByValue<V, T | undefined>,
) {
  const { field, fieldState } = useController({ control, name });
  return { value: field.value as T, onChange: field.onChange as (value: T) => void, onBlur: field.onBlur, fieldState };
}

export function FormText<V extends FieldValues>({
  control,
  name,
  label,
  width = 'w-[170px]',
  placeholder,
  type,
}: FieldOf<V, string> & { placeholder?: string; type?: 'text' | 'date' | 'time' }) {
  const { value, onChange, onBlur, fieldState } = useField<V, string>(control, name);
  return (
    <Labelled words={label}>
      <TextInput
        type={type}
        className={width}
        value={value}
        placeholder={placeholder}
        invalid={fieldState.invalid}
        onBlur={onBlur}
        onChange={({ target }) => onChange(target.value)}
      />
    </Labelled>
  );
}

export function FormNumber<V extends FieldValues>({ control, name, ...rest }: FieldOf<V, number>) {
  return <NumberField {...useField<V, number>(control, name)} {...rest} />;
}

export function FormMaybeNumber<V extends FieldValues>({ control, name, ...rest }: FieldOf<V, number | undefined>) {
  return <MaybeNumberField {...useField<V, number | undefined>(control, name)} {...rest} />;
}

export function FormShutter<V extends FieldValues>({ control, name, ...rest }: FieldOf<V, number>) {
  return <ShutterField {...useField<V, number>(control, name)} {...rest} />;
}

export function FormNumbers<V extends FieldValues>({ control, name, ...rest }: FieldOf<V, number[]>) {
  return <NumbersField {...useField<V, number[]>(control, name)} {...rest} />;
}

/** One of a few; values that are no text (8, 0.5) are written as text between the list and the form. */
export function FormSelect<V extends FieldValues, T extends string | number>({
  control,
  name,
  label,
  width = 'w-[150px]',
  options,
}: FieldOf<V, T> & { options: readonly (readonly [T, string])[] }) {
  const { value, onChange } = useField<V, T>(control, name);
  return (
    <Labelled words={label}>
      <Select
        className={width}
        value={String(value)}
        options={options.map(([one, words]): Option<string> => [String(one), words])}
        onChange={(chosen) => onChange(options.find(([one]) => String(one) === chosen)![0])}
      />
    </Labelled>
  );
}

export function FormCheckbox<V extends FieldValues>({
  control,
  name,
  label,
  className,
}: FieldOf<V, boolean> & { className?: string }) {
  const { value, onChange } = useField<V, boolean>(control, name);
  return (
    <Checkbox checked={value} onChange={onChange} className={className}>
      {label}
    </Checkbox>
  );
}
