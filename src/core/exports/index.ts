export * from './cube';
export * from './text';
