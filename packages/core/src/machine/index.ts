export * from './machine';
export * from './lookAhead';
