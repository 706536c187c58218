export * from './blind';
export * from './display';
export * from './level';
export * from './pyramid';
export * from './route';
export * from './viewport';
