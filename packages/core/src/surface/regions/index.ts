export * from './border';
export * from './labels';
export * from './paint';
