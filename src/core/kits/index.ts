export * from './kit';
export * from './mass';
export * from './rig';
export * from './table';
