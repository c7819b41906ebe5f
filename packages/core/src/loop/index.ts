export * from './model';
export * from './pidRules';
export * from './margins';
export * from './predicted';
export * from './propose';
export * from './stepTest';
export * from './straighten';
export { thinned, noiseOf, type LoopRecord } from './thin';
