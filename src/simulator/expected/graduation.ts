/** What a graduated filter's line comes to: the drawn parameters themselves, luminance by the general library. */
import type { TrueFilter } from '../truth';
import { expectedLuminousStops } from './color';

export interface ExpectedGraduation {
  clear: number;
  dense: number;
  midline: number;
  width: number;
  angleDegrees: number;
}

export function expectedGraduation({ stops, graduation }: TrueFilter): ExpectedGraduation {
  const { denseStops, midline, width, angleDegrees } = graduation!;
  return {
    clear: expectedLuminousStops(stops),
    dense: expectedLuminousStops(denseStops),
    midline,
    width,
    angleDegrees,
  };
}
