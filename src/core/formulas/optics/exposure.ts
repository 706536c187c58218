/**
 * Exposure arithmetic: APEX values (ISO 2720), marks and shutter angles.
 *
 * EV = Av + Tv with Av = 2 log2 N and Tv = −log2 t. Incident constant C = 250 (EV 0 at ISO 100 is 2.5 lx),
 * reflected constant K = 12.5 (ISO 2720).
 */

/** Settings of one picture: seconds, ISO speed, f-number (absent where the aperture is fixed). */
export interface Exposure {
  shutterSeconds: number;
  iso: number;
  fNumber?: number;
}

const INCIDENT_CONSTANT = 250;
const REFLECTED_CONSTANT = 12.5;

/**
 * Seconds of a shutter as people write it: `"1/2000"`, `"1/240.0"`, `"2.5"`, `"2.5s"`, `0.004`. `null` when it isn't one.
 */
export function parseShutter(shutter: string | number): number | null {
  if (typeof shutter === 'number') return shutter > 0 && Number.isFinite(shutter) ? shutter : null;
  const match = /^\s*(?:(\d+(?:\.\d+)?)\s*\/\s*)?(\d+(?:\.\d+)?)\s*(?:s|sec)?\s*$/i.exec(shutter);
  if (!match) return null;
  const seconds = match[1] === undefined ? Number(match[2]) : Number(match[1]) / Number(match[2]);
  return seconds > 0 && Number.isFinite(seconds) ? seconds : null;
}

/** A shutter as people write it: fractions below 0.3 s, seconds from there. */
export function formatShutter(seconds: number): string {
  if (seconds >= 0.3) return `${Math.round(seconds * 10) / 10} s`;
  const denominator = 1 / seconds;
  return `1/${denominator >= 10 ? Math.round(denominator) : Math.round(denominator * 10) / 10} s`;
}

/** The exact time behind a marked shutter of the third-stop series: 2^(k/3) s, so 1/60 is 2^−6 s. */
export function snapShutterMark(seconds: number): number {
  return 2 ** (Math.round(3 * Math.log2(seconds)) / 3);
}

/** Marks of the third-stop series as cameras engrave them, seconds; each stands for 2^(k/3) s (common practice, no source). */
const SHUTTER_MARKS: readonly number[] = [
  ...[8000, 6400, 5000, 4000, 3200, 2500, 2000, 1600, 1250, 1000, 800, 640, 500, 400, 320, 250, 200, 160, 125, 100, 80],
  ...[60, 50, 40, 30, 25, 20, 15, 13, 10, 8, 6, 5, 4],
]
  .map((denominator) => 1 / denominator)
  .concat([0.3, 0.4, 0.5, 0.6, 0.8, 1, 1.3, 1.6, 2, 2.5, 3.2, 4, 5, 6, 8, 10, 13, 15, 20, 25, 30]);

/** A mark that was written is off its own time by less than this share: 1/60 as 0.0167. */
const SAME_MARK = 0.003;

/** Whether a time is written as a mark of the third-stop series that isn't the series' exact time, or is both. */
export function isShutterMark(seconds: number): boolean {
  return SHUTTER_MARKS.some((mark) => Math.abs(mark / seconds - 1) < SAME_MARK);
}

/** The mark nearest to a time; the time itself where it lies beyond the row by more than a sixth of a stop. */
export function shutterMark(seconds: number): number {
  const away = (mark: number) => Math.abs(Math.log2(snapShutterMark(mark) / seconds));
  const nearest = SHUTTER_MARKS.reduce((best, mark) => (away(mark) < away(best) ? mark : best));
  return away(nearest) <= 1 / 6 + 1e-9 ? nearest : seconds;
}

/** A time as the camera has it engraved where it is a mark of the series, else as it is. */
export function writeShutter(seconds: number): string {
  const mark = shutterMark(seconds);
  const isMark = [mark, snapShutterMark(mark)].some((one) => Math.abs(Math.log2(one / seconds)) < 1e-3);
  if (isMark) return formatShutter(mark);
  return seconds >= 0.3 ? `${Math.round(seconds * 100) / 100} s` : `1/${Math.round(10 / seconds) / 10} s`;
}

/** Aperture value, 2 log2 N. */
export function apertureValue(fNumber: number): number {
  return 2 * Math.log2(fNumber);
}

/** Time value, −log2 t. */
export function timeValue(shutterSeconds: number): number {
  return -Math.log2(shutterSeconds);
}

/** Exposure value of a shutter and an aperture. */
export function exposureValue(shutterSeconds: number, fNumber: number): number {
  return apertureValue(fNumber) + timeValue(shutterSeconds);
}

/** Illuminance in lux at which a meter calls for this EV: E = C·2^EV/S (ISO 2720, C = 250). */
export function illuminanceLux(ev: number, iso: number): number {
  return (INCIDENT_CONSTANT * 2 ** ev) / iso;
}

/** Luminance in cd/m² at which a meter calls for this EV: L = K·2^EV/S (ISO 2720, K = 12.5). */
export function luminance(ev: number, iso: number): number {
  return (REFLECTED_CONSTANT * 2 ** ev) / iso;
}

/** Shutter time in seconds of a shutter angle: t = angle/(360·fps). */
export function shutterForAngle(angleDegrees: number, framesPerSecond: number): number {
  return angleDegrees / (360 * framesPerSecond);
}

/** Stops of filter that turn the metered shutter into the wanted one. */
export function strengthNeeded(wantedSeconds: number, meteredSeconds: number): number {
  return Math.log2(wantedSeconds / meteredSeconds);
}

/**
 * log2 of t·ISO/N² (formats.md): what the settings alone do to the level. The f-number counts where it is known;
 * callers make sure that it is known in both takes or in neither.
 */
export function exposureLog2(exposure: Exposure): number {
  const aperture = exposure.fNumber === undefined ? 0 : apertureValue(exposure.fNumber);
  return Math.log2(exposure.shutterSeconds) + Math.log2(exposure.iso) - aperture;
}

/** ISO speeds and f-numbers as dials have them engraved, in thirds of a stop; f-numbers of half stops too (common practice, no source). */
const ISO_MARKS = [50, 64, 80, 100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600, 2000, 2500, 3200, 4000, 5000, 6400, 8000, 10000, 12800, 16000, 20000, 25600, 32000, 40000, 51200, 102400]; // prettier-ignore
const F_MARKS = [1, 1.1, 1.2, 1.4, 1.6, 1.7, 1.8, 2, 2.2, 2.4, 2.5, 2.8, 3.2, 3.3, 3.5, 4, 4.5, 4.8, 5, 5.6, 6.3, 6.7, 7.1, 8, 9, 9.5, 10, 11, 13, 14, 16, 18, 19, 20, 22, 25, 27, 29, 32]; // prettier-ignore
/** What a dial is set to by a mark lies off it by up to so many stops: f/22 stands for 22.6. */
const ENGRAVED_STOPS = 0.09;

const engraved = (marks: readonly number[], value: number, stopsAnOctave: number): number | null => {
  const away = (mark: number) => stopsAnOctave * Math.abs(Math.log2(mark / value));
  const nearest = marks.reduce((best, mark) => (away(mark) < away(best) ? mark : best));
  return away(nearest) <= ENGRAVED_STOPS ? nearest : null;
};

/** An ISO speed as its dial has it: 1008 is "1000"; off the row it is rounded. */
export function writeIso(iso: number): string {
  return String(engraved(ISO_MARKS, iso, 1) ?? Math.round(iso));
}

/** An f-number as its ring has it, without "f/": 5.04 is "5.0", 11.3 is "11"; off the row it has one decimal. */
export function writeFNumber(fNumber: number): string {
  const mark = engraved(F_MARKS, fNumber, 2) ?? fNumber;
  return mark >= 10 && Number.isInteger(mark) ? String(mark) : mark.toFixed(1);
}
