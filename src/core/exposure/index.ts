export * from './exposure';
