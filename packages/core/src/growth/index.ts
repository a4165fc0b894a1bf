export { growth, runsOut, type Growth, type GrowthPoint } from './growth.js';
export type { PlaceLevel } from './levels.js';
