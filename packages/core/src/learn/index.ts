export * from './learned';
export * from './replay';
export * from './learn';
export * from './tuned';
