export * from './catmullClark';
export * from './cageOf';
export * from './shapeOf';
