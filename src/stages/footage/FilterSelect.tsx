import { Select, type Option } from '@/ui/controls/Select';

/** No filter, and no filter while a bracket was shot; no filter's id begins with a space. */
const BARE = '';
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
  /** `undefined` while nobody knows. */
  value: string | null | undefined;
  filters: readonly { id: string; name?: string }[];
  bracket?: boolean;
  onChange: (filter: string | null, bracket: boolean) => void;
}) {
  const options: Option<string>[] = [
    [BARE, 'bare'],
    ...(bracket === undefined ? [] : [[BRACKET, 'bare, of the bracket'] as const]),
    ...filters.map(({ id, name }) => [id, name ?? id] as const),
  ];
  return (
    <Select
      label={label}
      className="w-full min-w-[112px]"
      invalid={value === undefined}
      placeholder="choose …"
      value={value === undefined ? null : bracket ? BRACKET : (value ?? BARE)}
      options={options}
      onChange={(chosen) => onChange(chosen === BARE || chosen === BRACKET ? null : chosen, chosen === BRACKET)}
    />
  );
}
