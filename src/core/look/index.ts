export * from './look';
