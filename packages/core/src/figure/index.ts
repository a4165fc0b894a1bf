export * from './figure.js';
export * from './print.js';
