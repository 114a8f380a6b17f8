export * from './bench';
export * from './cards';
export * from './http';
export * from './kit';
export * from './names';
export * from './runFile';
