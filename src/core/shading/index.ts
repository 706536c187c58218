export { cellEdges, reduceField, CORNERS, type FieldStatistics, type Corner } from './field';
export { measureShading, strengthMap, type StrengthMap, type ShadingReadings, type WeightedField } from './shading';
