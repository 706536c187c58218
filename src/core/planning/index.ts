export * from './sun';
export * from './day';
export * from './rig';
export * from './light';
export * from './plan';
export * from './warnings';
export * from './planned';
export * from './log';
