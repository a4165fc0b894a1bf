import 'reflect-metadata';

export * from './account.js';
export * from './check.js';
export * from './clones.js';
export * from './extras.js';
export * from './guests.js';
export * from './hardware.js';
export * from './hosts.js';
export * from './lists.js';
export * from './log.js';
export * from './migrations.js';
export * from './networks.js';
export * from './places.js';
export * from './problem.js';
export * from './views.js';
