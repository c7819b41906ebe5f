export * from './terminals';
