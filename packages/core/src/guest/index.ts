export * from './change-guest.js';
export * from './change-parts.js';
export * from './demand.js';
export * from './draft-guest.js';
