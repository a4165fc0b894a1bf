export * from './checks.js';
export * from './estimate.js';
export * from './goodput.js';
export * from './plan-migration.js';
export * from './release-hold.js';
export * from './route.js';
export * from './step-migration.js';
