export * from './change-guest.js';
export * from './change-adapter.js';
export * from './change-volume.js';
export * from './demand.js';
export * from './draft-guest.js';
