import Link from 'next/link';
import type { MotionReadings, Reading } from '@/core/session';
import { CurveChart } from '@/ui/charts/CurveChart';
import { fixed, plusMinus } from '@/ui/format';
import { Panel } from './Panel';

type Clip = Pick<MotionReadings, 'jitterPx' | 'wobblePx' | 'blurPx' | 'jumpPx' | 'shutterAngle' | 'path' | 'waves'>;

/** How the camera moved in the filter's clip, beside bare's: a filter changes it only through the shutter. */
export function MotionPanel({ motion, sessionId }: { motion: MotionReadings; sessionId: string }) {
  const clips: { name: string; clip: Clip }[] = [
    ...(motion.bare ? [{ name: 'bare', clip: motion.bare }] : []),
    { name: 'filtered', clip: motion },
  ];
  const rows: { what: string; pick: (clip: Clip) => Reading | undefined }[] = [
    { what: 'jitter', pick: (clip) => clip.jitterPx },
    { what: 'rolling waves', pick: (clip) => clip.wobblePx },
    { what: 'jump from frame to frame', pick: (clip) => clip.jumpPx },
    { what: 'blur in one exposure', pick: (clip) => clip.blurPx },
  ];
  return (
    <Panel title="Motion" method="motion">
      <table className="w-full text-[13px] mt-2">
        <thead>
          <tr className="text-ink-3 text-[12px]">
            <td />
            {clips.map(({ name }) => (
              <th key={name} scope="col" className="text-right font-medium">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ what, pick }) => (
            <tr key={what}>
              <th scope="row" className="text-left font-normal text-ink-2">
                {what}
              </th>
              {clips.map(({ name, clip }) => {
                const reading = pick(clip);
                return (
                  <td key={name} className="text-right whitespace-nowrap">
                    {reading ? (
                      <>
                        {fixed(reading.value)} <span className="unit">px {plusMinus(reading.u95)}</span>
                      </>
                    ) : (
                      <span className="text-ink-3">–</span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
          <tr>
            <th scope="row" className="text-left font-normal text-ink-2">
              shutter angle
            </th>
            {clips.map(({ name, clip }) => (
              <td key={name} className="text-right">
                {clip.shutterAngle === undefined ? (
                  <span className="text-ink-3">–</span>
                ) : (
                  `${fixed(clip.shutterAngle, 0)}°`
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <Traces
        clips={clips}
        title="Off the one-second mean"
        of={({ path }) => path.map(([t, x, y]) => [t, Math.hypot(x, y)])}
      />
      <Traces clips={clips} title="The band that moved most" of={({ waves }) => waves} />
      {motion.sentences.map((one) => (
        <p key={one} className="text-ink-2 text-[13px] mt-1.5">
          {one}
        </p>
      ))}
      <p className="text-ink-3 text-[12.5px] mt-1.5">
        A filter changes these only through the shutter.{' '}
        <Link href={`/sessions/${sessionId}/compare`} className="underline">
          Play the clips in step
        </Link>
      </p>
    </Panel>
  );
}

function Traces({
  clips,
  title,
  of,
}: {
  clips: readonly { name: string; clip: Clip }[];
  title: string;
  of: (clip: Clip) => [number, number][];
}) {
  const curves = clips.map(({ name, clip }) => {
    const points = of(clip);
    // Each clip counts from its own first frame.
    const start = points[0]?.[0] ?? 0;
    return { name, points: points.map(([t, value]): [number, number] => [t - start, value]) };
  });
  const all = curves.flatMap(({ points }) => points);
  if (all.length === 0) return null;
  const most = Math.max(0.1, ...all.map(([, value]) => value));
  return (
    <CurveChart
      curves={curves.map(({ name, points }) => ({
        points,
        ink: name === 'bare' ? 'gray' : 'bright',
        dash: name === 'bare' ? 'dashed' : 'solid',
      }))}
      x={{ min: 0, max: Math.ceil(10 * Math.max(...all.map(([t]) => t))) / 10, name: 'seconds' }}
      y={{ min: 0, max: Number((1.1 * most).toPrecision(2)), name: `${title}, px; bare dashed` }}
      label={`${title}, over time`}
      height={130}
    />
  );
}
