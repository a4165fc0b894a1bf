export { schedule } from './schedule.js';
export type { Work } from './work.js';
