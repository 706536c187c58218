/** What a camera that draws its pictures does to their sharpness. */

/** u95 of processed pictures: of any, for all of the sharpness that is lost, for a stop between bare and filtered. */
const PROCESSING_U95 = { always: Math.hypot(0.02, 0.045), softer: 0.15, aStop: 0.065, ofLocalTone: 0.5 };
const STOPS_A_HALVING = 2.2;

/**
 * What a camera's sharpening and noise reduction leave uncertain in a kept sharpness: they act on codes, so that a darker picture is
 * drawn otherwise. Half of the u95 that trials with many stand-in cameras asked for.
 *
 * @param darker how many times codes are halved from bare to filtered, about 2.2 stops of light each by standard curves
 * @param localTone gain on contrast with the surroundings: a wide sharpening, which acts less on dark pictures
 */
export function processingU(retained: number, darker: number, localTone = 0): number {
  const { always, softer, aStop, ofLocalTone } = PROCESSING_U95;
  return (
    0.5 *
    Math.hypot(
      always,
      softer * Math.max(0, 1 - retained),
      aStop * STOPS_A_HALVING * Math.abs(darker),
      ofLocalTone * localTone * Math.min(1, Math.abs(darker)),
    )
  );
}
