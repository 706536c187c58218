import type { PlanRig } from '../sitting/planning/planRig';

/** A camera of a bench as plans of tests have it: f/2.8 fixed, thirds of a stop, eight usable stops. */
export const BENCH_RIG: PlanRig = {
  camera: 'Bench rig',
  widest: 2.8,
  fixedAperture: true,
  baseIso: 100,
  highestIso: 6400,
  fastest: 1 / 8000,
  slowest: 1,
  step: 1 / 3,
  usableStops: 8,
  shutterMarks: 'nominal',
};
