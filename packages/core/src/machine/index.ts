export * from './state';
export * from './tripHistory';
export { causeGone, watchDrive } from './protection';
export { ratedTorqueOf, usualShaftShare } from './electrical';
export * from './machine';
export * from './lookAhead';
export * from './stopping';
export * from './whatIf';
