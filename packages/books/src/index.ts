export * from './book';
export * from './setting';
export { straightOf } from './controlsOf';
export * from './driveSettings';
export * from './fit';
export { checkRoles, type RoleFault } from './checkRoles';
export type { PlateSetting } from './plateFigures';
export * from './told';
export * from './memory';
