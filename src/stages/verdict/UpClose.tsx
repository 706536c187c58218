import { Link } from '@/ui/Link';
import type { FilterReadings } from '@/core/session/readings';
import { patchName } from '@/ui/format';
import type { SessionView } from '@/ui/sessionView';
import { ColorsPanel } from './ColorsPanel';
import { FlarePanel } from './FlarePanel';
import { GraduationPanel } from './GraduationPanel';
import { MarksPanel } from './MarksPanel';
import { MotionPanel } from './MotionPanel';
import { partNamed } from './parts';
import { PolarizerPanel } from './PolarizerPanel';
import { ScenePanel } from './ScenePanel';
import { ShadingPanel } from './ShadingPanel';
import { SharpnessPanel } from './SharpnessPanel';

/** What the selected filter does, by its kind: ring, marks or line first, then sharpness, corners, flare and colors. */
export function UpClose({ readings, name, view }: { readings: FilterReadings; name: string; view: SessionView }) {
  const { sharpness, shading, flare, verdict, polarizer, marks, graduation, colors } = readings;
  const patches = new Map(view.session.patches.map((patch) => [patch.id, patch]));
  const nameOf = (id: string) => patchName(patches.get(id) ?? { id });
  // A graduated filter's corners are its graduation.
  const missing = [!sharpness && 'sharpness', !shading && !graduation && 'corners'].filter((one) => one !== false);
  return (
    <section aria-label={`${name} up close`} className="mt-5 scroll-mt-4" {...partNamed(`${name} up close`)}>
      <h2 className="mb-2">{name} up close</h2>
      <div className="grid gap-3 mb-3 empty:hidden">
        {polarizer && <PolarizerPanel polarizer={polarizer} session={view.session} word={verdict.polarizer} />}
        {marks && <MarksPanel readings={readings} />}
        {graduation && <GraduationPanel graduation={graduation} />}
      </div>
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
              nameOf={nameOf}
            />
          )}
          {readings.ordinary?.map((one) => (
            <ScenePanel
              key={`${readings.filter} ${one.patch}`}
              ordinary={one}
              session={view.session}
              sessionId={view.id}
            />
          ))}
          {flare && <FlarePanel flare={flare} view={view} />}
          {readings.motion && <MotionPanel motion={readings.motion} session={view.session} sessionId={view.id} />}
        </div>
        <div className="grid gap-3 min-w-0">
          {colors && <ColorsPanel colors={colors} nameOf={nameOf} />}
          {shading && <ShadingPanel shading={shading} words={[verdict.corners, verdict.hotSpot]} />}
        </div>
      </div>
      {missing.length > 0 && (
        <p className="text-ink-3 text-small mt-2">
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
