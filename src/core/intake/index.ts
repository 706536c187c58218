export * from './names';
export * from './draft';
