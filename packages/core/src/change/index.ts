export * from './decide.js';
export * from './descriptions.js';
export * from './expectations.js';
export { STAND_ALONE, type StandAlone } from './stand-alone.js';
export * from './stored-change.js';
