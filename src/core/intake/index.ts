export * from './names';
export * from './draft';
export * from './lay';
export type { Candidate, FileToLay, KnownFile, LaidFile, Laying, Place } from './laying';
export { clockIsOff, duration } from './log';
export * from './places';
export * from './arrived';
export * from './planned';
export * from './turn';
