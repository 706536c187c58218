'use client';

import { useState } from 'react';
import { brewsterDegrees, greatestCut, SURFACES, type Surface } from '@/core/formulas/optics/fresnel';
import { skyDarkening, skyUnevenness } from '@/core/formulas/optics/rayleigh';
import { sunPosition } from '@/core/formulas/sun/sun';
import type { Scene, Take } from '@/core/session/schema';
import { Line, TextInput } from '@/ui/controls/fields';
import { Select, type Option } from '@/ui/controls/Select';
import { fixed } from '@/ui/format';
import type { OpticsChange } from './useOptics';

/** Field of view for the warning, degrees: a usual wide lens. */
const WIDE = 84;

/** What is known of a scene's polarized light: what reflects, where the sun stands, how the screen swings. */
export function SceneOptics({
  scene,
  takes,
  optics,
  change,
}: {
  scene: Scene;
  takes: readonly Take[];
  optics: OpticsChange;
  change: Change;
}) {
  if (scene.kind !== 'screen' && scene.kind !== 'water' && scene.kind !== 'sky') return null;
  const time = takes.find((take) => take.capturedAt)?.capturedAt ?? null;

  return (
    <section aria-label="What is known of the light" className="mt-4 pt-3 border-t border-rule">
      <h2 className="!text-body">What is known of the light</h2>
      <div className="grid gap-2 mt-2">
        {scene.kind === 'screen' && (
          <>
            <Degrees
              label="A right mark would be brightest at, °"
              range={[-360, 360]}
              value={optics.screenDegrees}
              onChange={(screenDegrees) => change({ screenDegrees })}
            />
            <p className="text-small text-ink-3">
              Turn the ring by even steps over 180° (seven angles or more). A filter without a turning ring: turn it
              with its whole mount, or turn the screen the other way and note that angle.
            </p>
          </>
        )}
        {scene.kind === 'water' && <Reflection optics={optics} change={change} />}
        {scene.kind === 'sky' && <Sky optics={optics} change={change} time={time} />}
      </div>
    </section>
  );
}

const SURFACE_NAMES: readonly Option<Surface | ''>[] = [
  ['', 'unknown'],
  ...(Object.keys(SURFACES) as Surface[]).map((one) => [one, SURFACES[one].name] as const),
];

type Change = (part: OpticsChange) => void;

function Reflection({ optics, change }: { optics: OpticsChange; change: Change }) {
  const { surface, incidenceDegrees } = optics;
  const index = surface === undefined ? null : SURFACES[surface].index;
  return (
    <>
      <Line words="What reflects">
        <Select<Surface | ''>
          className="w-[140px]"
          value={surface ?? ''}
          options={SURFACE_NAMES}
          onChange={(chosen) => change({ surface: chosen === '' ? undefined : chosen })}
        />
      </Line>
      <Degrees
        label="Seen from its normal, °"
        range={[0, 90]}
        value={incidenceDegrees}
        onChange={(degrees) => change({ incidenceDegrees: degrees })}
      />
      <p className="text-small text-ink-3">
        {surface === 'metal'
          ? 'Metals hardly polarize what they reflect: choose another surface.'
          : index !== null && incidenceDegrees !== undefined
            ? `There the surface allows ${allowed(greatestCut(index, incidenceDegrees))}; all of a reflection goes at ${brewsterDegrees(index).toFixed(0)}°.`
            : 'Straight down is 0°. Water gives most at 53°, glass at 56°.'}
      </p>
    </>
  );
}

const allowed = (stops: number) => (stops > 6 ? 'more than 6 stops' : `${fixed(stops, 1)} stops`);

function Sky({ optics, change, time }: { optics: OpticsChange; change: Change; time: string | null }) {
  const { place, view, sunAngleDegrees } = optics;
  // Half a place or half a direction is none: the missing half must not count as zero.
  const [halfPlace, setHalfPlace] = useState<{ latitude?: number; longitude?: number }>(place ?? {});
  const [halfView, setHalfView] = useState<{ azimuth?: number; altitude?: number }>(view ?? {});
  const withPlace = (next: typeof halfPlace) => {
    setHalfPlace(next);
    const { latitude, longitude } = next;
    change({ place: latitude === undefined || longitude === undefined ? undefined : { latitude, longitude } });
  };
  const withView = (next: typeof halfView) => {
    setHalfView(next);
    const { azimuth, altitude } = next;
    change({ view: azimuth === undefined || altitude === undefined ? undefined : { azimuth, altitude } });
  };
  const sun = place && time ? sunPosition(new Date(time), place) : null;
  return (
    <>
      <Degrees
        label="Angle to the sun, °"
        range={[0, 180]}
        value={sunAngleDegrees}
        onChange={(degrees) => change({ sunAngleDegrees: degrees })}
      />
      <p className="text-small text-ink-3">
        {sunAngleDegrees === undefined
          ? 'Or where and which way; the takes’ time does the rest. Never look at the sun, nor point the camera at it.'
          : `A clear sky there darkens by about ${fixed(skyDarkening(sunAngleDegrees), 1)} stops.`}
      </p>
      <Degrees
        label="Latitude, ° north"
        range={[-90, 90]}
        value={halfPlace.latitude}
        onChange={(latitude) => withPlace({ ...halfPlace, latitude })}
      />
      <Degrees
        label="Longitude, ° east"
        range={[-180, 180]}
        value={halfPlace.longitude}
        onChange={(longitude) => withPlace({ ...halfPlace, longitude })}
      />
      <Degrees
        label="Heading, ° from north"
        range={[-360, 360]}
        value={halfView.azimuth}
        onChange={(azimuth) => withView({ ...halfView, azimuth })}
      />
      <Degrees
        label="Up from the horizon, °"
        range={[-90, 90]}
        value={halfView.altitude}
        onChange={(altitude) => withView({ ...halfView, altitude })}
      />
      {sun && view && (
        <p className="text-small text-ink-3">
          The sun stood at {fixed(sun.azimuth, 0)}°, {fixed(sun.altitude, 0)}° high. Across a wide lens ({WIDE}°) the
          sky would be uneven by {fixed(skyUnevenness(sun, view, WIDE), 1)} stops.
        </p>
      )}
    </>
  );
}

/** An angle as it is typed: what can't be one is told beside it, and the last one that could stays. */
function Degrees({
  label,
  value,
  range: [least, most],
  onChange,
}: {
  label: string;
  value: number | undefined;
  range: readonly [least: number, most: number];
  onChange: (value: number | undefined) => void;
}) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const number = degreesOf(text);
  const invalid = number !== undefined && !(number >= least && number <= most);
  return (
    <div>
      <Line words={label}>
        <TextInput
          className="w-[84px] text-right"
          inputMode="decimal"
          invalid={invalid}
          value={text}
          onChange={({ target }) => {
            setText(target.value);
            const next = degreesOf(target.value);
            if (next === undefined || (next >= least && next <= most)) onChange(next);
          }}
        />
      </Line>
      {invalid && (
        <p role="alert" className="text-small text-failure">
          An angle from {fixed(least, 0)} to {fixed(most, 0)}; {value === undefined ? 'none' : `${value}°`} is kept
          until then.
        </p>
      )}
    </div>
  );
}

/** `undefined` for an empty field, `NaN` for what is no number. */
function degreesOf(text: string): number | undefined {
  const typed = text.trim().replace(',', '.').replace('−', '-');
  return typed === '' ? undefined : Number(typed);
}
