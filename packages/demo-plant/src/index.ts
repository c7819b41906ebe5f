export * from './demoPlant';
export * from './flywheelStand';
export * from './panels';
