export * from './as-guest.js';
export * from './set-computer.js';
