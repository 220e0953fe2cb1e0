export * from './api';
export * from './Session';
export type { Drag } from './Drag';
export * from './useSession';
export * from './openSession';
export * from './sculptWorkerClient';
export * from './summary';
export type { SaveState } from './AutoSave';
export { stepReach } from './stepReach';
