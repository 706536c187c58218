export * from './fresnel';
export * from './ring';
export * from './sky';
