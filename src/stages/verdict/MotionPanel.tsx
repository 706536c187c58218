'use client';

import { useState } from 'react';
import { Link } from '@/ui/Link';
import type { MotionReadings, Reading } from '@/core/session/readings';
import type { Session } from '@/core/session/schema';
import { firstMoment, momentAsked } from '@/core/viewing/shownFirst';
import { CurveChart } from '@/ui/charts/CurveChart';
import { Slider } from '@/ui/controls/Slider';
import { Choice } from '@/ui/controls/Toggle';
import { fixed, plusMinus } from '@/ui/format';
import { Panel } from './Panel';
import { StutterChart } from './StutterChart';

type Clip = Pick<
  MotionReadings,
  'jitterPx' | 'wobblePx' | 'blurPx' | 'jumpPx' | 'shutterAngle' | 'seenAngle' | 'path' | 'waves'
>;

/** How the camera moved in the filter's clip, beside bare's: a filter changes it only through the shutter. */
export function MotionPanel({
  motion,
  session,
  sessionId,
}: {
  motion: MotionReadings;
  session: Session;
  sessionId: string;
}) {
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
  // One moment for the traces and the frames, counted from each clip's first frame.
  const [seconds, choose] = useState(0);
  // Traces and slider over the same seconds, so that one cursor runs through them.
  const end = Math.max(
    ...clips.flatMap(({ clip }) => [...clip.path, ...clip.waves].map(([t]) => t - firstMoment(clip))),
  );
  return (
    <Panel title="Motion" method="motion">
      <table className="w-full text-label mt-2">
        <thead>
          <tr className="text-ink-3 text-small">
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
              shutter angle, as told
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
          {clips.some(({ clip }) => clip.seenAngle) && (
            <tr>
              <th scope="row" className="text-left font-normal text-ink-2">
                shutter angle, by the smear
              </th>
              {clips.map(({ name, clip }) => (
                <td key={name} className="text-right whitespace-nowrap">
                  {clip.seenAngle ? (
                    <>
                      {fixed(clip.seenAngle.value, 0)}° <span className="unit">± {fixed(clip.seenAngle.u95, 0)}°</span>
                    </>
                  ) : (
                    <span className="text-ink-3">–</span>
                  )}
                </td>
              ))}
            </tr>
          )}
        </tbody>
      </table>
      <StutterChart clips={clips} />
      <Traces
        clips={clips}
        end={end}
        cursor={seconds}
        onCursor={choose}
        title="Off the one-second mean"
        of={({ path }) => path.map(([t, x, y]) => [t, Math.hypot(x, y)])}
      />
      <Traces
        clips={clips}
        end={end}
        cursor={seconds}
        onCursor={choose}
        title="The band that moved most"
        of={({ waves }) => waves}
      />
      {motion.sentences.map((one) => (
        <p key={one} className="text-ink-2 text-label mt-1.5">
          {one}
        </p>
      ))}
      <Moment {...{ motion, session, sessionId, end, seconds, choose }} />
      <p className="text-ink-3 text-small mt-1.5">
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
  end,
  cursor,
  onCursor,
  title,
  of,
}: {
  clips: readonly { name: string; clip: Clip }[];
  /** Seconds of the clips that are told of. */
  end: number;
  cursor: number;
  onCursor: (seconds: number) => void;
  title: string;
  of: (clip: Clip) => [number, number][];
}) {
  const curves = clips.map(({ name, clip }) => {
    const points = of(clip);
    const start = firstMoment(clip);
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
      x={{ min: 0, max: Math.ceil(10 * end) / 10, name: 'seconds' }}
      y={{ min: 0, max: Number((1.1 * most).toPrecision(2)), name: `${title}, px; bare dashed` }}
      label={`${title}, over time`}
      height={130}
      cursor={cursor}
      onCursor={onCursor}
    />
  );
}

/** Shutter angles to try on bare's clip, degrees; as it was shot first. */
const ANGLES = [0, 90, 180, 270, 360] as const;

/** The frames at a moment of both clips, and bare's as a longer shutter would have drawn it: whether a filter was needed at all. */
function Moment({
  motion,
  session,
  sessionId,
  end,
  seconds,
  choose,
}: {
  motion: MotionReadings;
  session: Session;
  sessionId: string;
  /** Seconds of the clips that are told of. */
  end: number;
  seconds: number;
  choose: (seconds: number) => void;
}) {
  const fileOf = (take?: string) => session.takes.find(({ id }) => id === take)?.files[0];
  const files = { bare: fileOf(motion.bare?.take), filtered: fileOf(motion.take) };
  const [angle, open] = useState(0);
  if (!files.filtered || !(end > 0)) return null;
  const frame = (file: string, start: number, degrees: number) =>
    `/api/sessions/${sessionId}/averaged?${new URLSearchParams({ file, at: momentAsked(start + seconds), angle: String(degrees) })}`;
  return (
    <section aria-label="The frame at a moment" className="mt-2">
      <div className="flex items-center gap-2 text-small text-ink-2">
        <span className="whitespace-nowrap">at {fixed(seconds)} s</span>
        <Slider
          label="Moment of both clips"
          min={0}
          max={Number(end.toFixed(2))}
          step={0.05}
          value={seconds}
          onChange={choose}
          className="w-full"
        />
      </div>
      <div className="grid grid-cols-2 gap-2 mt-1">
        {files.bare && (
          <figure className="min-w-0">
            <img
              src={frame(files.bare, firstMoment(motion.bare), angle)}
              alt={angle === 0 ? 'Bare’s frame' : `Bare’s frame as a shutter of ${angle}° would have drawn it`}
              className="w-full aspect-video object-contain rounded mat"
            />
            <figcaption className="text-small text-ink-3">
              bare{angle === 0 ? ', as shot' : `, averaged to ${angle}°`}
            </figcaption>
          </figure>
        )}
        <figure className="min-w-0">
          <img
            src={frame(files.filtered, firstMoment(motion), 0)}
            alt="The filter’s frame"
            className="w-full aspect-video object-contain rounded mat"
          />
          <figcaption className="text-small text-ink-3">filtered, as shot</figcaption>
        </figure>
      </div>
      {files.bare && (
        <div className="flex flex-wrap items-center gap-1 mt-1.5 text-small">
          <span className="text-ink-2 mr-1">What a longer shutter would have drawn:</span>
          <Choice
            label="Shutter angle of bare’s frame"
            value={String(angle)}
            entries={ANGLES.map((one) => ({ value: String(one), words: one === 0 ? 'as shot' : `${one}°` }))}
            onChange={(one) => open(Number(one))}
          />
        </div>
      )}
    </section>
  );
}
