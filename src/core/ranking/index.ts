export * from './combine';
export * from './figures';
export * from './kit';
export * from './rank';
export * from './score';
