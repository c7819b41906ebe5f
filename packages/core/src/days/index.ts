export * from './sleepDay';
export * from './stationAhead';
export * from './fitted';
