export * from './plate';
export * from './check';
