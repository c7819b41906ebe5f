export * from './pid';
export * from './sleep';
export * from './terminals';
export * from './waits';
export * from './process';
export * from './restarts';
export * from './controls';
export * from './sleepDay';
