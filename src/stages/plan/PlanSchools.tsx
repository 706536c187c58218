import { SCHOOLS } from '@/core/sitting/planning/warnings';
import type { Option } from '@/ui/controls/Select';
import { PlanChoice } from './planControls';
import type { PlanForm } from './usePlanForm';

const PROTOCOLS: readonly Option<PlanForm['protocol']>[] = [
  ['matched', 'matched to bare'],
  ['locked', 'locked'],
  ['automatic', 'automatic'],
];
const ORDERS: readonly Option<PlanForm['order']>[] = [
  ['lightest', 'lightest first'],
  ['darkest', 'darkest first'],
  ['mirrored', 'there and back'],
];
const EXPOSED: readonly Option<PlanForm['exposeFor']>[] = [
  ['middle', 'the meter’s gray'],
  ['darker', 'darker'],
  ['brightest', 'the brightest part'],
];

/** What reviewers do differently, each with what speaks for it. */
export function PlanSchools({ form, change }: { form: PlanForm; change: (part: Partial<PlanForm>) => void }) {
  const why = 'text-small text-ink-3';
  return (
    <>
      <PlanChoice
        label="Exposure"
        value={form.protocol}
        options={PROTOCOLS}
        onChange={(protocol) => change({ protocol })}
      />
      <p className={why}>{SCHOOLS.protocol[form.protocol]}</p>
      <PlanChoice label="Order" value={form.order} options={ORDERS} onChange={(order) => change({ order })} />
      <p className={why}>{SCHOOLS.order[form.order]}</p>
      <PlanChoice
        label="Exposed for"
        value={form.exposeFor}
        options={EXPOSED}
        onChange={(exposeFor) => change({ exposeFor })}
      />
      <p className={why}>{SCHOOLS.exposeFor[form.exposeFor]}</p>
    </>
  );
}
