export * from './book';
export * from './machine';
export * from './sheet';
export * from './recording';
export * from './live';
export * from './problem';
export * from './hold';
export * from './bench';
