import { FOLLOWED, type Followed } from '@/core/judging/overTime/lives';
import { Select } from './controls/Select';

const QUALITIES = Object.keys(FOLLOWED) as Followed[];

/** Which quality of a filter is looked at, over sittings or benches. */
export function QualitySelect({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Followed;
  onChange: (value: Followed) => void;
}) {
  const options = QUALITIES.map((one) => [one, one.charAt(0).toUpperCase() + one.slice(1)] as const);
  return <Select label={label} value={value} options={options} onChange={onChange} />;
}
