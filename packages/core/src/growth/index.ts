export { growth, runsOut, type Growth, type GrowthPoint } from './growth.js';
export { growthInUse, memoryInUse, type GuestSample, type PoolSample } from './in-use.js';
export { RESOURCES, type PlaceLevel, type Resource } from './levels.js';
