export * from './change-migration.js';
export * from './checks.js';
export * from './estimate.js';
export * from './goodput.js';
export * from './route.js';
