export * from './distributions';
export * from './covariance';
export * from './budget';
export * from './means';
export * from './leastSquares';
