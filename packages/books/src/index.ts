export * from './book';
export * from './demoPlant';
export * from './estimate';
export * from './plateSettings';
export * from './words';
export * from './accuracy';
export * from './flywheelStand';
export * from './settingsFile';
