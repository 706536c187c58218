import { writeFNumber, writeIso, writeShutter } from '@/core/formulas/optics/exposure';
import { stepSetting, type PlanRig } from '@/core/sitting/planning/planRig';
import type { LoggedTake } from '@/core/sitting/planning/shootLog';
import type { PlannedTake } from '@/core/sitting/planning/plan';
import { placeOf } from './words';

/** The take to shoot: its filter and settings in large figures, with steppers for what really was set. */
export function TakeAtHand({
  logged: { take, setting },
  rig,
  name,
  count,
  onSetting,
}: {
  logged: LoggedTake;
  /** In whose steps the dials go. */
  rig: PlanRig;
  name: string;
  count: string;
  onSetting: (setting: PlannedTake['setting']) => void;
}) {
  const dial = (label: string, key: keyof PlannedTake['setting'], value: string) => (
    <Setting label={label} value={value} onStep={(way) => onSetting(stepSetting(rig, setting, key, way))} />
  );
  return (
    <section aria-label="This take" className="mt-3">
      <p className="text-body text-ink-3">
        {count}, {take.repeats} {take.repeats === 1 ? 'picture' : 'pictures'}
      </p>
      <h1 className="!text-hero leading-tight">{name}</h1>
      <p className="text-title">{placeOf(take)}</p>
      <div className="mt-2 grid gap-1.5">
        {dial('shutter', 'shutterSeconds', writeShutter(setting.shutterSeconds))}
        {dial('ISO', 'iso', writeIso(setting.iso))}
        {dial('f-number', 'fNumber', writeFNumber(setting.fNumber))}
      </div>
    </section>
  );
}

function Setting({ label, value, onStep }: { label: string; value: string; onStep: (way: 1 | -1) => void }) {
  const button = 'size-12 rounded-sheet border border-ink-4 text-figure leading-none';
  return (
    <div role="group" aria-label={label} className="flex items-center gap-2.5">
      <span className="w-[72px] text-lead text-ink-3">{label}</span>
      <span className="flex-1 text-hero font-medium leading-none">{value}</span>
      <button type="button" aria-label={`Less ${label}`} className={button} onClick={() => onStep(-1)}>
        −
      </button>
      <button type="button" aria-label={`More ${label}`} className={button} onClick={() => onStep(1)}>
        +
      </button>
    </div>
  );
}
