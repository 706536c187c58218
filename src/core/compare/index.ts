export * from './blind';
export * from './display';
export * from './level';
export * from './viewport';
