export * from './pid';
export * from './sleep';
export * from './terminals';
export * from './process';
export * from './restarts';
export * from './controls';
export * from './sleepDay';
