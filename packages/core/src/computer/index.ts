export * from './as-guest.js';
export * from './only-computers.js';
export * from './set-computer.js';
