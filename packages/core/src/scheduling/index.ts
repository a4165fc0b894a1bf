export { faultsOfSchedule, schedule } from './schedule.js';
export type { Schedule, Work } from './work.js';
