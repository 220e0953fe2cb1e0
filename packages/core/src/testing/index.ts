export * from './shapes';
