export * from './emergencySeen';
export * from './guardsSeen';
export * from './holdsSeen';
export * from './observer';
export * from './presetsSeen';
export * from './search';
export * from './selectorSeen';
export * from './sleepSeen';
