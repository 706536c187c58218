/** A small list of places to begin from; everything else is typed as coordinates. */
export interface KnownPlace {
  name: string;
  /** Degrees, north positive. */
  latitude: number;
  /** Degrees, east positive; `null` for the meridian of the clock at hand. */
  longitude: number | null;
}

/** The demo's places, and latitudes on one's own meridian: near enough for the sun to a few minutes of time. */
export const PLACES: readonly KnownPlace[] = [
  { name: 'Ashwick Quarry (demo)', latitude: 51.2, longitude: -2.5 },
  { name: 'Lantern Weir (demo)', latitude: 47, longitude: 8 },
  { name: 'Polar circle, here', latitude: 66.56, longitude: null },
  { name: '60° north, here', latitude: 60, longitude: null },
  { name: '50° north, here', latitude: 50, longitude: null },
  { name: '40° north, here', latitude: 40, longitude: null },
  { name: '30° north, here', latitude: 30, longitude: null },
  { name: 'Tropic of Cancer, here', latitude: 23.44, longitude: null },
  { name: 'Equator, here', latitude: 0, longitude: null },
  { name: 'Tropic of Capricorn, here', latitude: -23.44, longitude: null },
  { name: '35° south, here', latitude: -35, longitude: null },
  { name: '45° south, here', latitude: -45, longitude: null },
];

/** The meridian that a clock is set by: a quarter degree a minute of its offset from UTC. */
export function meridianOf(offsetMinutesEast: number): number {
  return offsetMinutesEast / 4;
}
