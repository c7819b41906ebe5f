export * from './tripCase';
export * from './cause';
export * from './measurements';
export * from './observations';
export * from './usual';
export * from './diagnose';
export * from './margins';
