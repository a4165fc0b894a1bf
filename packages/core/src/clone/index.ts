export * from './make-clones.js';
export * from './tick-items.js';
