export * from './change-address.js';
export * from './change-network.js';
export * from './give-address.js';
export * from './runs.js';
export * from './subnet.js';
