export * from './begin-template.js';
export * from './seal-version.js';
export * from './version.js';
export { sealedObjections, unseal } from './start-sealed.js';
