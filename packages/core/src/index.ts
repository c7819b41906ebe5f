export * from './units';
export * from './plate';
export * from './motor';
export * from './drive';
export * from './load';
export * from './machine';
export * from './recording';
export * from './random';
