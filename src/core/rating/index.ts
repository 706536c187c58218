export { adviseOn } from './advice';
export * from './bands';
export * from './verdict';
export * from './kit';
export * from './headline';
export * from './kinds';
export * from './rejudge';
