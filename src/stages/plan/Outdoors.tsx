'use client';

import { useState } from 'react';
import { goldenHours, polarizerHeadings, steadyWindow, sunPath, type Interval } from '@/core/sitting/planning/day';
import { meridianOf, PLACES } from '@/core/sitting/planning/knownPlaces';
import { SCHOOLS, warnOfHeading } from '@/core/sitting/planning/warnings';
import { skyRose, skyUnevenness } from '@/core/formulas/optics/rayleigh';
import { SkyRose } from '@/ui/charts/SkyRose';
import { fixed } from '@/ui/format';

/** Height of view above the horizon that is reckoned with, degrees. */
const VIEW_ALTITUDE = 15;

const today = () => new Date().toISOString().slice(0, 10);
const clock = (timeMs: number) => new Date(timeMs).toISOString().slice(11, 16);
const span = ({ fromMs, toMs }: Interval) => `${clock(fromMs)}–${clock(toMs)}`;

/** The sun of a day: when the light stays, which way a polarizer works. */
export function Outdoors() {
  const [latitude, setLatitude] = useState('47');
  const [longitude, setLongitude] = useState('8');
  const [date, setDate] = useState(today);
  const [heading, setHeading] = useState('');
  const [hour, setHour] = useState('12:00');
  const [field, setField] = useState('84');
  const [clarity, setClarity] = useState('0.75');
  const [exposure, setExposure] = useState<keyof typeof SCHOOLS.outdoors>('manual');
  const place = { latitude: Number(latitude), longitude: Number(longitude) };
  const start = Date.parse(`${date}T00:00:00Z`);
  const known = Number.isFinite(start) && Math.abs(place.latitude) <= 90 && Math.abs(place.longitude) <= 180;
  const path = known ? sunPath(start, place) : [];
  const at = path.reduce<(typeof path)[number] | null>((best, one) => {
    const wanted = Date.parse(`${date}T${hour}:00Z`);
    return !best || Math.abs(one.timeMs - wanted) < Math.abs(best.timeMs - wanted) ? one : best;
  }, null);
  const steady = steadyWindow(path);
  const golden = goldenHours(path);
  const [left, right] = at ? polarizerHeadings(at) : [0, 0];
  const facing = at && heading.trim() !== '' ? warnOfHeading(Number(heading), at) : null;
  const rose = at ? skyRose(at, VIEW_ALTITUDE, Number(clarity)) : [];
  const uneven = at
    ? Math.max(
        ...rose.map(({ azimuth }) =>
          skyUnevenness(at, { azimuth, altitude: VIEW_ALTITUDE }, Math.max(0, Number(field)) || 0, Number(clarity)),
        ),
      )
    : 0;
  return (
    <section aria-label="Outdoors" className="mt-7 print:hidden">
      <h2>Outdoors</h2>
      <div className="grid gap-x-8 gap-y-3 md:grid-cols-[minmax(0,1fr)_260px] items-start mt-2">
        <div>
          <div className="flex gap-3 flex-wrap items-end">
            <Field label="Latitude, ° north" value={latitude} onChange={setLatitude} />
            <Field label="Longitude, ° east" value={longitude} onChange={setLongitude} />
            <Field label="Day" value={date} onChange={setDate} type="date" />
            <Field label="Time, UTC" value={hour} onChange={setHour} type="time" />
            <Field label="Field of view, °" value={field} onChange={setField} />
            <label className="grid gap-1">
              <span className="text-ink-3 text-[12px]">Air</span>
              <select className="field" value={clarity} onChange={(event) => setClarity(event.target.value)}>
                <option value="0.85">very clear</option>
                <option value="0.75">clear</option>
                <option value="0.5">hazy</option>
              </select>
            </label>
            <Field label="Heading of the view, °" value={heading} onChange={setHeading} />
            <label className="grid gap-1">
              <span className="text-ink-3 text-[12px]">or a place of the list</span>
              <select
                className="field"
                value=""
                onChange={({ target }) => {
                  const chosen = PLACES.find(({ name }) => name === target.value);
                  if (!chosen) return;
                  setLatitude(String(chosen.latitude));
                  setLongitude(String(chosen.longitude ?? meridianOf(-new Date().getTimezoneOffset())));
                }}
              >
                <option value="">choose …</option>
                {PLACES.map(({ name }) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </label>
          </div>
          <label className="flex items-center gap-2 mt-3">
            <span className="text-ink-2">Exposure outdoors</span>
            <select
              className="field"
              value={exposure}
              onChange={({ target }) => setExposure(target.value as keyof typeof SCHOOLS.outdoors)}
            >
              <option value="manual">by hand</option>
              <option value="automatic">automatic</option>
            </select>
          </label>
          <p className="text-[12.5px] text-ink-3 mt-1 max-w-[72ch]">{SCHOOLS.outdoors[exposure]}</p>
          {facing && (
            <p role="status" className="mt-3 bg-well border-l-[3px] border-warning rounded-r-md px-4 py-2.5">
              {facing.message} <span className="text-ink-2">{facing.advice}</span>
            </p>
          )}
          {at && (
            <ul className="mt-3 grid gap-1 text-ink-2">
              <li>
                The sun stands at {fixed(at.azimuth, 0)}°, {fixed(at.altitude, 0)}°{' '}
                {at.altitude < 0 ? 'below' : 'above'} the horizon. Plan routes that don’t face it, and never look at it.
              </li>
              <li>
                A polarizer darkens the sky most towards {fixed(left, 0)}° and {fixed(right, 0)}°, and does nothing
                towards or away from the sun.
              </li>
              {at.altitude > 0 && (
                <li>
                  There it darkens by about {fixed(Math.max(...rose.map((one) => one.stops)), 1)} stops, but across a
                  lens of {field}° unevenly, by up to {fixed(uneven, 1)} stops:{' '}
                  {uneven > 0.5 ? 'a dark patch will show; turn the ring back or go narrower.' : 'that hardly shows.'}
                </li>
              )}
              <li>
                {steady
                  ? `On a clear day the light stays within a third of a stop from ${span(steady)} UTC.`
                  : 'The sun stays down all day.'}
              </li>
              {golden.length > 0 && <li>Golden hours: {golden.map(span).join(' and ')} UTC.</li>}
            </ul>
          )}
        </div>
        {at && at.altitude > 0 && <SkyRose known rose={rose} sunAzimuth={at.azimuth} />}
      </div>
    </section>
  );
}

function Field({
  label,
  value,
  onChange,
  type = 'text',
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  type?: string;
}) {
  return (
    <label className="grid gap-1">
      <span className="text-ink-3 text-[12px]">{label}</span>
      <input
        className={`field ${type === 'text' ? 'w-[96px]' : ''}`}
        type={type}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
