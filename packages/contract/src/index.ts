export * from './settings';
export * from './document';
export * from './api';
