export { gather, type Gathered, type GatheredPatch, type GatherOptions, type Observation } from './gather';
export type { EdgeMeasurement } from './reduce';
