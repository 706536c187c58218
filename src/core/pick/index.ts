export * from './light';
export * from './pick';
