export * from './schema';
export * from './parse';
export * from './readings';
export * from './faults';
export * from './kinds';
