/** The light of a place through the year, by the sun's path and the sky. */
import { sunPosition, type Site } from '../../formulas/sun/sun';
import { clearDayLux } from '../../sitting/planning/day';
import { evOfLux } from '../../sitting/planning/lightBudget';

export const SKIES = ['clear', 'thin cloud', 'overcast', 'shade'] as const;
export type Sky = (typeof SKIES)[number];

/**
 * Illuminance of level ground by day, lux; 0 with the sun below the horizon. Direct sun 127 500·exp(−c·m)·sin h, with c of 0.21 for a
 * clear sky and 0.80 for a partly cloudy one and the air mass m of Kasten & Young 1989; skylight 800 + 15 500·√(sin h), 300 + 45 000·sin h
 * and, overcast, 300 + 21 000·sin h. Constants of the Illuminating Engineering Society's recommended practice for daylight (RP-21), quoted
 * from memory. In the shade of a clear day there is its skylight alone.
 *
 * @param altitude of the sun, degrees
 */
export function skyLux(altitude: number, sky: Sky): number {
  if (altitude <= 0) return 0;
  const sine = Math.sin((altitude * Math.PI) / 180);
  switch (sky) {
    case 'clear':
      return clearDayLux(altitude);
    case 'shade':
      return 800 + 15_500 * Math.sqrt(sine);
    case 'overcast':
      return 300 + 21_000 * sine;
    case 'thin cloud': {
      const airMass = 1 / (sine + 0.50572 * (altitude + 6.07995) ** -1.6364);
      return 127_500 * Math.exp(-0.8 * airMass) * sine + 300 + 45_000 * sine;
    }
  }
}

/** An hour of a month's middle day under one sky. */
export interface HourOfLight {
  /** 1 to 12. */
  month: number;
  /** By the sun: 12 begins when it stands highest, to a quarter of an hour. */
  hour: number;
  sky: Sky;
  /** EV at ISO 100 of a middle gray in that light. */
  ev100: number;
  /** How often a year, hours; skies share a day evenly. */
  hours: number;
}

/** Days of the months; a quarter of a day of February is no matter here. */
const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
/** The sun's path is the same every year to a quarter of a degree. */
const YEAR = 2026;
const MIDDLE_DAY = 15;

export interface LightAsk {
  place: Site;
  /** 1 to 12. */
  months: readonly number[];
  /** Hours by the sun that one works in, from the beginning of one to the beginning of the other. */
  fromHour: number;
  toHour: number;
  skies: readonly Sky[];
}

/** The hours with the sun up that one works in, through a year. */
export function hoursOfLight({ place, months, fromHour, toHour, skies }: LightAsk): HourOfLight[] {
  const noonUtcMs = (12 - place.longitude / 15) * 3_600_000;
  return [...months]
    .sort((a, b) => a - b)
    .flatMap((month) =>
      Array.from({ length: Math.max(0, Math.ceil(toHour - fromHour)) }, (_, i) => fromHour + i).flatMap((hour) => {
        const middle = Date.UTC(YEAR, month - 1, MIDDLE_DAY) + noonUtcMs + (hour + 0.5 - 12) * 3_600_000;
        const { altitude } = sunPosition(new Date(middle), place);
        return skies.flatMap((sky): HourOfLight[] => {
          const lux = skyLux(altitude, sky);
          if (lux <= 0) return [];
          return [{ month, hour, sky, ev100: evOfLux(lux), hours: DAYS[month - 1] / skies.length }];
        });
      }),
    );
}
