export * from './circles.js';
export * from './fleet-start.js';
export * from './needs.js';
export * from './order.js';
export * from './restart-order.js';
export * from './shut-down.js';
