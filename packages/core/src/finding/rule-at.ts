/** How a rule tells what it found: the parts that differ, while id, rule and record follow from where it looks. */
import type { Fleet, Kind, Row } from '../record/index.js';
import type { Finding, Rule } from './finding.js';

export type RuleFinding = Omit<Finding, 'id' | 'rule' | 'about' | 'mend'> & {
  /** Name of the finding, where a rule tells several things. */
  rule?: string;
  /** Tells several findings of one rule at one record apart. */
  at?: string;
  /** Where it stands, if not at the record looked at. */
  about?: Finding['about'];
  mend?: Finding['mend'];
};

/** A rule about records of one kind; retired ones are passed over. */
export function ruleAt<K extends Kind>(
  kind: K,
  name: string,
  look: (fleet: Fleet, row: Row<K>, now: string) => RuleFinding[],
): Rule<K> {
  return {
    name,
    kind,
    look: (fleet, id, now) => {
      const row = fleet.need(kind, id);
      if ('state' in row && row.state === 'retired') return [];
      return look(fleet, row, now).map(({ rule = name, at, about, mend, ...rest }) => {
        const place = about ?? { kind, id, name: 'name' in row ? String(row.name) : name };
        return {
          id: [rule, id, at].filter(Boolean).join('|'),
          rule,
          about: place,
          mend: mend ?? { label: `Open ${place.name}`, kind: 'open' as const, id: place.id },
          ...rest,
        };
      });
    },
  };
}
