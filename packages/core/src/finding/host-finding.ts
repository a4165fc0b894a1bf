/** What the rules about hosts share: which hosts they look at, and how a finding about one begins. */
import type { Fleet, Row } from '../record/index.js';
import type { Finding, Rule } from './finding.js';

type Told = Omit<Finding, 'id' | 'rule' | 'about' | 'mend'> & { at?: string; mend?: Finding['mend'] };

/** A rule about hosts that are not retired. What it tells gets its id from the rule, the host and `at`. */
export function hostRule(name: string, look: (fleet: Fleet, host: Row<'host'>, now: string) => Told[]): Rule<'host'> {
  return {
    name,
    kind: 'host',
    look: (fleet, id, now) => {
      const host = fleet.need('host', id);
      if (host.state === 'retired') return [];
      return look(fleet, host, now).map(({ at, mend, ...told }) => ({
        id: [name, id, at].filter(Boolean).join('|'),
        rule: name,
        about: { kind: 'host', id, name: host.name },
        mend: mend ?? { label: `Open ${host.name}`, kind: 'open', id },
        ...told,
      }));
    },
  };
}

/** Days from now until a date; negative when it has passed. */
export const daysUntil = (date: string, now: string): number => Math.floor((Date.parse(date) - Date.parse(now)) / 86_400_000);
