export * from './compare-names.js';
export * from './machine-names.js';
export * from './read-names.js';
export * from './reservations.js';
export * from './forget-names.js';
export * from './take-names.js';
export * from './zone-write.js';
export * from './zone-defaults.js';
