export * from './window';
export * from './statistics';
