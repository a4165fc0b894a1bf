export * from './bytes.js';
export * from './counted.js';
export * from './duration.js';
export * from './rate.js';
export * from './time.js';
export * from './vlan.js';
