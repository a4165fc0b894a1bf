export * from './bytes.js';
export * from './duration.js';
export * from './rate.js';
