export * from './open-times.js';
export * from './work-window.js';
export * from './zone-name.js';
export * from './zone.js';
