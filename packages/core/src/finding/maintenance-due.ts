import { practice } from '../figure/index.js';
import { hostRule } from './host-finding.js';
import { daysUntil } from '../record/index.js';

/** The day of a host's next maintenance has passed. */
export const maintenanceDue = hostRule('maintenance-due', (fleet, host, now) => {
  const due = host.nextMaintenanceOn;
  if (due === null || daysUntil(fleet, due, now) >= 0) return [];
  return [
    {
      severity: 'caution',
      evidence: `The maintenance of ${host.name} was due on ${due}.`,
      consequence: 'Dust, batteries and firmware are found when they fail, not when it suits.',
      remedy: 'Do it, note it in the log, and record the day of the next one.',
      source: practice('Maintenance by plan is done on its day, or put off knowingly'),
    },
  ];
});
