import { writeFNumber, writeIso, writeShutter } from '@/core/formulas/optics/exposure';
import type { PlannedTake } from '@/core/sitting/planning/plan';
import type { TakeState } from '@/core/sitting/planning/progress';
import { bareInWords } from '@/core/sitting/planning/planned';
import { signed } from '@/ui/format';

/** The takes in shooting order; printed, a sheet with boxes. */
export function RunOrder({
  takes,
  nameOf,
  states,
  footage,
}: {
  takes: readonly PlannedTake[];
  nameOf: (id: string) => string;
  /** What became of the takes, by id, and which have footage; left out before there is a session. */
  states?: ReadonlyMap<string, TakeState>;
  footage?: ReadonlySet<string>;
}) {
  return (
    <section aria-label="Run order" className="mt-6">
      <h2>Run order</h2>
      {/* On a phone it is wider than the page: whoever has keys alone moves it by them. */}
      <div className="relative overflow-x-auto" tabIndex={0} role="group" aria-label="Order of the takes">
        <table className="w-full mt-1 text-label">
          <thead>
            <tr className="text-ink-3 text-small text-left border-b border-rule">
              <th className="font-medium py-1 w-8">{states ? '' : '✓'}</th>
              <th className="font-medium text-right pr-4">Minute</th>
              <th className="font-medium">Scene</th>
              <th className="font-medium">Filter</th>
              <th className="font-medium">Ring or mark</th>
              <th className="font-medium text-right pr-4">Shutter</th>
              <th className="font-medium text-right pr-4">ISO</th>
              <th className="font-medium text-right pr-4">f-number</th>
              <th className="font-medium text-right pr-4">Pictures</th>
              <th className="font-medium text-right">Level</th>
            </tr>
          </thead>
          <tbody>
            {takes.map((take) => (
              <tr key={take.id} className={`border-b border-rule ${take.filter === null ? 'text-ink-2' : ''}`}>
                <td className="py-1">
                  {states ? (
                    <StateMark state={states.get(take.id) ?? 'open'} hasFootage={footage?.has(take.id) ?? false} />
                  ) : (
                    <span aria-hidden className="inline-block size-3.5 border border-ink-4 rounded-sm" />
                  )}
                </td>
                <td className="text-right pr-4">{Math.round(take.minute)}</td>
                <td>{take.scene}</td>
                <td className={take.filter === null ? '' : 'font-strong'}>
                  {take.filter === null ? bareInWords(take) : nameOf(take.filter)}
                </td>
                <td>
                  {take.ringDegrees !== undefined
                    ? `${take.ringDegrees}°`
                    : take.mark !== undefined
                      ? `mark ${take.mark}`
                      : ''}
                </td>
                <td className="text-right pr-4 whitespace-nowrap">{writeShutter(take.setting.shutterSeconds)}</td>
                <td className="text-right pr-4">{writeIso(take.setting.iso)}</td>
                <td className="text-right pr-4">{writeFNumber(take.setting.fNumber)}</td>
                <td className="text-right pr-4">{take.repeats}</td>
                <td className="text-right">{signed(-take.short, 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function StateMark({ state, hasFootage }: { state: TakeState; hasFootage: boolean }) {
  const [mark, words] = hasFootage
    ? ['●', 'has footage']
    : state === 'done'
      ? ['◐', 'shot, no footage yet']
      : state === 'skipped'
        ? ['–', 'skipped']
        : ['○', 'to shoot'];
  return (
    <>
      <span aria-hidden title={words}>
        {mark}
      </span>
      <span className="sr-only">{words}</span>
    </>
  );
}
