export { faultsOfSchedule, schedule, type Schedule, type Work } from './schedule.js';
