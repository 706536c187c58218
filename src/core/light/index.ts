export * from './transfer';
export * from './response';
export type { LogSum } from './recover';
export { parseCube1d, cubePoints } from './cube';
export { parseCurveCsv } from './csv';
