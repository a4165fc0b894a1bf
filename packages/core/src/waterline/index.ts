export * from './waterline.js';
