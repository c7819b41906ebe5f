export * from './circuit';
export * from './fromPlate';
