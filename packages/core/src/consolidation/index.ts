export * from './consolidate.js';
export * from './draw-programme.js';
export * from './platform-change.js';
export type { PlatformAsk, PlatformMove } from './platform-place.js';
export * from './windows.js';
