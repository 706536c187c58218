'use client';

import { parseISO } from 'date-fns';
import { useForm, useWatch } from 'react-hook-form';
import { goldenHours, polarizerHeadings, steadyWindow, sunPath, type Interval } from '@/core/sitting/planning/day';
import { meridianOf, PLACES } from '@/core/sitting/planning/knownPlaces';
import { SCHOOLS, warnOfHeading } from '@/core/sitting/planning/warnings';
import { skyRose, skyUnevenness } from '@/core/formulas/optics/rayleigh';
import { SkyRose } from '@/ui/charts/SkyRose';
import { Labelled } from '@/ui/controls/fields';
import { FormSelect, FormText } from '@/ui/controls/form';
import { sameWords, Select } from '@/ui/controls/Select';
import { fixed } from '@/ui/format';

/** Height of view above the horizon that is reckoned with, degrees. */
const VIEW_ALTITUDE = 15;

const today = () => new Date().toISOString().slice(0, 10);
const clock = (timeMs: number) => new Date(timeMs).toISOString().slice(11, 16);
const span = ({ fromMs, toMs }: Interval) => `${clock(fromMs)}–${clock(toMs)}`;

/** What is typed of a day outdoors. */
interface OutdoorsForm {
  latitude: string;
  longitude: string;
  date: string;
  hour: string;
  field: string;
  clarity: string;
  heading: string;
  exposure: keyof typeof SCHOOLS.outdoors;
}

const FIRST: Omit<OutdoorsForm, 'date'> = {
  latitude: '47',
  longitude: '8',
  hour: '12:00',
  field: '84',
  clarity: '0.75',
  heading: '',
  exposure: 'manual',
};
const AIR: readonly (readonly [string, string])[] = [
  ['0.85', 'very clear'],
  ['0.75', 'clear'],
  ['0.5', 'hazy'],
];
const EXPOSURES = [
  ['manual', 'by hand'],
  ['automatic', 'automatic'],
] as const;

/** The sun of a day: when the light stays, which way a polarizer works. */
export function Outdoors() {
  const { control, setValue } = useForm<OutdoorsForm>({ defaultValues: { ...FIRST, date: today() } });
  const { latitude, longitude, date, hour, field, clarity, heading, exposure } = useWatch({ control }) as OutdoorsForm;
  const start = parseISO(`${date}T00:00:00Z`).getTime();
  const place = { latitude: Number(latitude), longitude: Number(longitude) };
  const known = Number.isFinite(start) && Math.abs(place.latitude) <= 90 && Math.abs(place.longitude) <= 180;
  const path = known ? sunPath(start, place) : [];
  const at = path.reduce<(typeof path)[number] | null>((best, one) => {
    const wanted = parseISO(`${date}T${hour}:00Z`).getTime();
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
            <FormText control={control} name="latitude" label="Latitude, ° north" width="w-[96px]" />
            <FormText control={control} name="longitude" label="Longitude, ° east" width="w-[96px]" />
            <FormText control={control} name="date" label="Day" type="date" width="" />
            <FormText control={control} name="hour" label="Time, UTC" type="time" width="" />
            <FormText control={control} name="field" label="Field of view, °" width="w-[96px]" />
            <FormSelect control={control} name="clarity" label="Air" width="w-[112px]" options={AIR} />
            <FormText control={control} name="heading" label="Heading of the view, °" width="w-[96px]" />
            <Labelled words="or a place of the list">
              <Select
                className="w-[190px]"
                value={null}
                placeholder="choose …"
                options={sameWords(PLACES.map(({ name }) => name))}
                onChange={(chosen) => {
                  const found = PLACES.find(({ name }) => name === chosen)!;
                  setValue('latitude', String(found.latitude));
                  setValue('longitude', String(found.longitude ?? meridianOf(-new Date().getTimezoneOffset())));
                }}
              />
            </Labelled>
          </div>
          <div className="mt-3">
            <FormSelect control={control} name="exposure" label="Exposure outdoors" options={EXPOSURES} />
          </div>
          <p className="text-small text-ink-3 mt-1 max-w-[72ch]">{SCHOOLS.outdoors[exposure]}</p>
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
