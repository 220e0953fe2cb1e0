export * from './PickGrid';
