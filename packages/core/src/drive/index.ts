export * from './parameters';
export * from './bus';
export * from './stateMachine';
export * from './overload';
