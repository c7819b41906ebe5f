export * from './sump';
export * from './vessel';
export * from './shared';
