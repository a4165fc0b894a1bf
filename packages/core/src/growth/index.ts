export { growth, runsOut, type Growth } from './growth.js';
export { growthInUse, memoryInUse } from './in-use.js';
export { RESOURCES } from './levels.js';
