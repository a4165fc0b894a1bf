export * from './about.js';
export * from './finding.js';
export * from './registry.js';
