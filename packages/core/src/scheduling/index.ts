export { faultsOfSchedule } from './faults-of-schedule.js';
export { schedule } from './schedule.js';
export type { Schedule, Work } from './work.js';
