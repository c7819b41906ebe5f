export * from './drillCauses';
export * from './tripped';
export * from './caseOf';
export * from '@yare/words/trips/causes';
export * from '@yare/words/trips/measurements';
export { duration } from '@yare/words/trips/seen';
export * from './measureFirst';
export * from './remedies';
export * from './words';
