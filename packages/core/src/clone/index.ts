export * from './make-clones.js';
export * from './tick-item.js';
