export * from './blind';
export * from './display';
export * from './level';
export * from './pyramid';
export * from './viewport';
