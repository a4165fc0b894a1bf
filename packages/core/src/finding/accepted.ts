/** Findings that somebody lives with for a while. */
import type { Fleet, Row } from '../record/index.js';
import type { Finding } from './finding.js';

/** Time alone alters no evidence: "21 days old" and "22 days old" say the same. */
const withoutTime = (evidence: string): string =>
  evidence.replace(/\b\d[\d,]* (?:minutes?|hours?|days?|weeks?|months?|years?)\b/g, 'some time');

const holds = (acceptance: Row<'acceptance'>, finding: Finding, now: string): boolean =>
  acceptance.until >= now.slice(0, 10) &&
  withoutTime(acceptance.evidence) === withoutTime(finding.evidence);

/** Findings with what is accepted of them. Costs nothing while nothing is. */
export function withAcceptances(fleet: Fleet, findings: Finding[], now: string): Finding[] {
  if (fleet.count('acceptance') === 0) return findings;
  return findings.map((finding) => {
    const acceptance = fleet.acceptanceOf(finding.id);
    return acceptance && holds(acceptance, finding, now)
      ? { ...finding, accepted: acceptance }
      : finding;
  });
}
