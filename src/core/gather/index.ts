export {
  gather,
  type EdgeObservation,
  type Gathered,
  type GatheredPatch,
  type GatherOptions,
  type Observation,
} from './gather';
export { apertureCounts, exposureOf } from './exposures';
export { withTelemetry } from './shots';
export type { Memory } from './memory';
export type { TurnMoment } from './turns';
export { reduceHere, type PlanReading, type ReadPlan, type ReducedPicture } from './readReduced';
export { reduceWindow, type EdgeMeasurement, type Reduced, type WindowRequest } from './reduce';
export { decodingFor, type Decoding } from './tables';
export type { OrdinaryPicture, OrdinaryScene } from './ordinary';
export { forEachConcurrently, PICTURES_AT_A_TIME } from './concurrently';
