export * from './drillCauses';
export * from './tripped';
export * from './caseOf';
export * from './causeWords';
export * from './measurementWords';
export { duration } from './seenWords';
export * from './measureFirst';
export * from './remedies';
export * from './words';
