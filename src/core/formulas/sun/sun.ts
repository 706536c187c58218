/** Where the sun stands, by astronomy-engine (VSOP87, to an arc minute). */
import { Body, Equator, Horizon, Observer } from 'astronomy-engine';
import type { Direction } from '../optics/rayleigh';

export interface Site {
  /** Degrees, north and east positive. */
  latitude: number;
  longitude: number;
  /** Meters above the sea. */
  height?: number;
}

/** The sun's heading (from north, clockwise) and height above the horizon in degrees, with normal refraction. */
export function sunPosition(when: Date, { latitude, longitude, height = 0 }: Site): Direction {
  const observer = new Observer(latitude, longitude, height);
  const { ra, dec } = Equator(Body.Sun, when, observer, true, true);
  const { azimuth, altitude } = Horizon(when, observer, ra, dec, 'normal');
  return { azimuth, altitude };
}
