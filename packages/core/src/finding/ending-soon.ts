import { own } from '../figure/index.js';
import { hostRule } from './host-finding.js';
import { daysUntil } from '../record/index.js';

/** Days before the end from which a certificate, a licence or a warranty is worth a word. */
const AHEAD = 30;

/** A certificate, licence or warranty of a host ends soon, or has ended. */
export const endingSoon = hostRule('ending-soon', (fleet, host, now) => {
  const ends = [
    {
      what: 'certificate of the console',
      date: host.certificateUntil,
      consequence: 'Whoever joins the host then is told not to trust it.',
      remedy: 'Renew it and record the new fingerprint.',
      grave: true,
    },
    {
      what: 'licence',
      date: host.licenceUntil,
      consequence: 'Some platforms then refuse to start guests.',
      remedy: 'Renew the licence; the record says where its key is kept.',
      grave: true,
    },
    {
      what: 'warranty',
      date: host.warrantyUntil,
      consequence: 'A dead part is then yours to find and pay for.',
      remedy: 'Extend it, or keep spare parts.',
      grave: false,
    },
  ];
  return ends.flatMap(({ what, date, consequence, remedy, grave }) => {
    const days = date === null ? Infinity : daysUntil(fleet, date, now);
    if (days > AHEAD) return [];
    const severity = !grave
      ? ('note' as const)
      : days < 0
        ? ('blocker' as const)
        : ('caution' as const);
    const when =
      days < 0
        ? `ended on ${date}`
        : days === 0
          ? 'ends today'
          : `ends on ${date}, in ${days} ${days === 1 ? 'day' : 'days'}`;
    return [
      {
        at: what,
        severity,
        evidence: `The ${what} of ${host.name} ${when}.`,
        consequence,
        remedy,
        source: own(`Told ${AHEAD} days ahead`),
      },
    ];
  });
});
