/** What runs inside a drive: the application foresees parts of it and runs none, so that its pages do not carry it. */
export * from './cleaning';
export * from './controls';
export * from './emergency';
export * from './filling';
export * from './guards';
export * from './outputs';
export * from './station';
