export { reduceView, luminanceOf, type SceneView } from './view';
export { ratioMap, gridOf, REASONS, type RatioMap, type Reason } from './ratio';
export { ALIKE, levelCovariance, solveChannel, type LensFall, type Pair, type SolvedChannel } from './solve';
export { commonSpectra, fallBetween, meanFall, robustMean, stretchOf, type Fall } from './fall';
export { spotsOf, tileSpectra } from './spectra';
