export * from './learned';
export * from './tuned';
export type { LearnOptions, LearnResult } from './learn';
export type { DriveRecord } from './replay';
