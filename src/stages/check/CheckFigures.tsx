import type { ReactNode } from 'react';
import { changeSince } from '@/core/sitting/planning/cameraCheck';
import { promiseInWords } from '@/core/words/cameraCheck';
import type { CameraCheck } from '@/core/session/cameraCheck';
import type { Fault } from '@/core/session/readings';
import { CurveChart } from '@/ui/charts/CurveChart';
import { DoubtedCurve } from '@/ui/charts/DoubtedCurve';
import { fixed, plusMinus, signed } from '@/ui/format';

const MARKS: Record<CameraCheck['marks'], string> = {
  exact: 'as written',
  nominal: 'the series’ exact powers',
  either: 'either: the ± counts both',
  alike: 'alike in these pictures',
};

/** What a check tells of a camera: in one sentence, drawn, and figure by figure. */
export function CheckFigures({
  check,
  before,
  faults,
  children,
}: {
  check: CameraCheck;
  before?: CameraCheck;
  faults: readonly Fault[];
  /** What can be done with it. */
  children: ReactNode;
}) {
  return (
    <section aria-label="The check" className="bg-sheet rounded-sheet px-[18px] py-4 mt-5">
      <div className="flex justify-between gap-4 flex-wrap items-start">
        <p className="text-title font-strong">{promiseInWords(check)}</p>
        <div className="flex gap-2 flex-wrap items-center">{children}</div>
      </div>
      <p className="text-ink-2 mt-1">
        {check.pictures} pictures of {dayOf(check)}
        {check.settings.model ? `, ${[check.settings.make, check.settings.model].filter(Boolean).join(' ')}` : ''}, ISO{' '}
        {check.isoSpeeds.join(', ')}. {before ? changedSince(before, check) : ''}
      </p>
      <div className="grid gap-6 mt-4 md:grid-cols-2 lg:grid-cols-[1fr_1fr_0.9fr]">
        <figure>
          <figcaption className="text-small text-ink-2">Light of a code, dotted its ±</figcaption>
          <DoubtedCurve
            height={210}
            points={check.curve.map(({ code, light, u95 }) => ({ code, stops: light[1], u95 }))}
          />
        </figure>
        <figure>
          <figcaption className="text-small text-ink-2">Noise of single pixels, codes of 8 bits</figcaption>
          <NoiseChart check={check} />
        </figure>
        <Figures check={check} />
      </div>
      {faults.map(({ code, message, remedy }) => (
        <p key={`${code}${message}`} className="text-warning mt-3 max-w-[90ch]">
          {message} {remedy}
        </p>
      ))}
    </section>
  );
}

const dayOf = ({ checkedAt }: CameraCheck) => checkedAt.slice(0, 10);

function changedSince(before: CameraCheck, check: CameraCheck): string {
  const change = changeSince(before, check);
  if (!change) return `No codes in common with the check of ${dayOf(before)}.`;
  return change.stops > change.u95
    ? `The curve moved by ${fixed(change.stops, 3)} stop since ${dayOf(before)}: a setting was changed.`
    : `As it was on ${dayOf(before)}, within ${plusMinus(change.u95, 3)} stop.`;
}

function NoiseChart({ check: { noise } }: { check: CameraCheck }) {
  const points = noise.map(({ stops, spread }) => [stops, spread] as const);
  const most = Math.max(0.5, ...points.map(([, spread]) => spread));
  return (
    <CurveChart
      label="Noise against light in stops"
      height={210}
      curves={[{ points, ink: 'bright', dots: true }]}
      x={{ min: Math.floor(Math.min(-1, ...points.map(([stops]) => stops))), max: Math.ceil(Math.max(0, ...points.map(([stops]) => stops))), name: 'light, stops from full scale' }} // prettier-ignore
      y={{ min: 0, max: Math.ceil(most * 2) / 2, name: 'codes' }}
    />
  );
}

function Figures({ check }: { check: CameraCheck }) {
  const { automaticTone, localTone, marks, exposures, balance, grain, drift, clipping, black } = check;
  const rows: [string, string][] = [
    ['Stops told to', check.tells.filter(({ stops }) => stops % 2 === 1).map(({ stops, u95 }) => `${stops}: ${plusMinus(u95, 3)}`).join(' · ')], // prettier-ignore
    ['Tone by picture', `none found, ${fixed(automaticTone, 3)} stop a stop at most`],
    ...(localTone
      ? [['Tone by place', Math.abs(localTone.value) > Math.max(0.01, 2.5 * localTone.u95) ? `${signed(100 * localTone.value, 1)} % of contrast` : `none found, ${plusMinus(100 * localTone.u95, 1)} %`] as [string, string]] // prettier-ignore
      : []),
    ['Shutter marks', MARKS[marks]],
    ['Exposures repeat to', orBetter(exposures, 0.003)],
    ['White balance repeats to', orBetter(balance, 0.002)],
    ['Light drifted by', `${signed(drift, 3)} stop`],
    ...(grain === undefined ? [] : [['Noise of neighbors', grain > 0.1 ? `goes together (${fixed(grain, 2)}): processed` : `apart (${fixed(grain, 2)})`] as [string, string]]), // prettier-ignore
    ...(clipping === undefined ? [] : [['Highlights end at', `${fixed(100 * clipping, 1)} %`] as [string, string]]),
    ...(black === undefined ? [] : [['Darkest code seen', `${fixed(100 * black, 1)} %`] as [string, string]]),
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 text-small self-start md:col-span-2 lg:col-span-1">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink-3">{name}</dt>
          <dd className="tabular-nums">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** A scatter in stops; below the least that can be told, as a bound. */
const orBetter = (stops: number, least: number) =>
  stops < least ? `${fixed(least, 3)} stop or better` : `${fixed(stops, 3)} stop`;
