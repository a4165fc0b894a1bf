export * from './change-address.js';
export * from './change-network.js';
export * from './change-wiring.js';
export * from './cut-subnet.js';
export * from './give-address.js';
export * from './mac-block.js';
export * from './runs.js';
export * from './subnet.js';
