export * from './http';
export * from './runFile';
