export * from './config';
export { closeStore } from './database';
export { migrate } from './migrate';
export * from './media';
export * from './memory';
export * from './sessions';
export * from './readings';
export * from './renditions';
export type { JobState } from './models';
