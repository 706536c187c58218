export * from './names';
export * from './draft';
export * from './lay';
export * from './places';
