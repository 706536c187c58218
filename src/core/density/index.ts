export { preparePatch, patchStrength, combineStrengths, luminousStops } from './density';
export type { PatchSample, PatchSeries, PatchStrength, CombinedStrength } from './density';
export { LIGHT_FAULT_STOPS } from './bareLevels';
export { repeatRange } from './repeats';
