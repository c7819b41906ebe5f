export * from './parameters';
export * from './bus';
export * from './stateMachine';
export * from './overload';
export * from './protections';
export * from './heatsink';
export * from './sizing';
