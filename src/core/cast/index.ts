export * from './cast';
