export * from './pid';
export * from './sleep';
export * from './sleepDay';
