export * from './first-start.js';
export { identityScript } from './identity-script.js';
export * from './identity.js';
export * from './make-clones.js';
export { readPattern, type NamePattern } from './name-pattern.js';
export { SPREAD_RULES, type SpreadRule } from './spread.js';
export * from './tick-items.js';
