export * from './catmullClark';
export * from './cageOf';
