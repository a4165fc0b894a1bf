export * from './ip.js';
export * from './prefix.js';
export * from './mac.js';
export * from './name.js';
