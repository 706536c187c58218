import { useController, type Control } from 'react-hook-form';
import { Labelled, Line, TextInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import type { PlanForm } from './usePlanForm';

/** Fields of the plan that are typed. */
type TextKey = { [K in keyof PlanForm]: PlanForm[K] extends string ? K : never }[keyof PlanForm];

/** A field of the plan: a wide one below its words, a small one beside them. */
export function PlanText({
  control,
  name,
  label,
  wide = false,
  placeholder,
  list,
}: {
  control: Control<PlanForm>;
  name: TextKey;
  label: string;
  wide?: boolean;
  placeholder?: string;
  /** Values that are offered. */
  list?: readonly number[];
}) {
  const { field } = useController({ control, name });
  const Around = wide ? Labelled : Line;
  return (
    <Around words={label}>
      <TextInput
        className={wide ? 'w-full' : 'w-[104px] text-right'}
        placeholder={placeholder}
        list={list && `offered-${name}`}
        {...field}
      />
      {list && (
        <datalist id={`offered-${name}`}>
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </Around>
  );
}

/** One of a few, beside its words. */
export function PlanChoice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
}) {
  return (
    <div className="flex items-center justify-between gap-2">
      <span className="text-ink-2" aria-hidden>
        {label}
      </span>
      <Select label={label} className="w-[172px]" value={value} options={options} onChange={onChange} />
    </div>
  );
}
