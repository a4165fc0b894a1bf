export * from './consolidate.js';
export * from './draw-programme.js';
export * from './platform-change.js';
export * from './windows.js';
