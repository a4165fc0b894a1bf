export * from './about.js';
export * from './accepts-itself.js';
export * from './finding-age.js';
export * from './finding.js';
export * from './gathered.js';
export { newerRelease } from './media-faults.js';
export * from './near.js';
export * from './registry.js';
