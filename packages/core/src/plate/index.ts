export * from './plate';
export * from './check';
export * from './connection';
export * from './supply';
