export * from './circuit';
export * from './fluxRise';
export * from './fromPlate';
export * from './unbalance';
export * from './directCurrent';
export * from './thermal';
export * from './standstillTest';
export * from './usualStart';
