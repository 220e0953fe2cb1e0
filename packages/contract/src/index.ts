export * from './settings';
export * from './document';
export * from './documentJson';
export * from './archive';
export * from './api';
export * from './jobs';
