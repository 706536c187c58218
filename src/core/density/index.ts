export { preparePatch, patchStrength, combineStrengths, luminousStops, bareWeightsAt } from './density';
export type { PatchSample, PatchSeries, PatchStrength, CombinedStrength } from './density';
export { repeatRange } from './repeats';
export {
  bareLightAt,
  takeStrengths,
  inheritedParts,
  ownRelativeU,
  type TakeStrength,
  type UncertaintyPart,
} from './takes';
