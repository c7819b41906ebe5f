export * from './driven';
export * from './estimate';
