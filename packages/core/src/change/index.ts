export * from './decide.js';
export * from './descriptions.js';
export * from './expectations.js';
export * from './stored-change.js';
