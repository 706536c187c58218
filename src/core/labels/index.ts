export * from './notation';
export * from './shorthand';
