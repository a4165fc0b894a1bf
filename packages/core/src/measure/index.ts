export * from './percentile.js';
export * from './predicted-range.js';
export * from './read-samples.js';
export * from './right-size.js';
export * from './runway.js';
export * from './trend.js';
