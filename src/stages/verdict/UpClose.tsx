import Link from 'next/link';
import type { FilterReadings } from '@/core/session';
import type { SessionView } from '@/ui/sessionView';
import { FlarePanel } from './FlarePanel';
import { ShadingPanel } from './ShadingPanel';
import { SharpnessPanel } from './SharpnessPanel';

/** The selected filter's sharpness, corners and flare, beside each other below the table. */
export function UpClose({ readings, name, view }: { readings: FilterReadings; name: string; view: SessionView }) {
  const { sharpness, shading, flare, verdict } = readings;
  const missing = [!sharpness && 'sharpness', !shading && 'corners'].filter((one) => one !== false);
  return (
    <section aria-label={`${name} up close`} className="mt-5">
      <h2 className="mb-2">{name} up close</h2>
      <div className="grid gap-3 items-start md:grid-cols-2">
        <div className="grid gap-3 min-w-0">
          {sharpness && (
            <SharpnessPanel
              key={readings.filter}
              sessionId={view.id}
              edges={sharpness}
              word={verdict.sharpness}
              cause={verdict.softness}
              advice={verdict.sharpnessAdvice}
            />
          )}
          {flare && <FlarePanel flare={flare} view={view} />}
        </div>
        {shading && <ShadingPanel shading={shading} words={[verdict.corners, verdict.hotSpot]} />}
      </div>
      {missing.length > 0 && (
        <p className="text-ink-3 text-[12.5px] mt-2">
          No figure for {missing.join(' and ')}: the notes say why, or there is no edge or even field to measure on.{' '}
          <Link href={`/sessions/${view.id}/regions`} className="underline">
            Regions
          </Link>{' '}
          says where.
        </p>
      )}
    </section>
  );
}
