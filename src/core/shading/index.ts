export { reduceField, CORNERS, type FieldStatistics, type Corner } from './field';
export { measureShading, type ShadingReadings, type WeightedField } from './shading';
