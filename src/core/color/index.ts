export * from './spaces';
export * from './lab';
export { colorTemperature, mccamyTemperature, type ColorTemperature } from './temperature';
