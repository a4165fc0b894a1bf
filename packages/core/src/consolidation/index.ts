export * from './consolidate.js';
export * from './draw-programme.js';
export * from './platform-change.js';
export type { PlatformAsk } from './platform-place.js';
export * from './windows.js';
