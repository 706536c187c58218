export * from './transfer';
export * from './response';
export { parseCube1d, cubePoints } from './cube';
