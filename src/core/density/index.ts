export { combineStrengths, luminousStops, type CombinedStrength } from './combine';
export { preparePatch, patchStrength, bareWeightsAt, seriesOf } from './density';
export type { PatchSample, PatchSeries, PatchStrength, Shot } from './density';
export { repeatRange } from './repeats';
export {
  bareLightAt,
  takeStrengths,
  inheritedParts,
  ownRelativeU,
  type TakeStrength,
  type UncertaintyPart,
} from './takes';
