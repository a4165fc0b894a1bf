import type { FindingMark } from '@insel/contract';
import type { Severity } from '@insel/core';

const MARK: Record<Severity, { sign: string; word: string; tone: string }> = {
  blocker: { sign: '■', word: 'Blocker', tone: 'text-signal' },
  caution: { sign: '◆', word: 'Caution', tone: 'text-amber' },
  note: { sign: '○', word: 'Note', tone: 'text-faint' },
};

/** Mark of the gravest finding, for a line of a list. */
export function Mark({ mark }: { mark: FindingMark | null }) {
  if (!mark) return null;
  const { sign, word, tone } = MARK[mark.severity];
  const text = `${word}${mark.count > 1 ? `, ${mark.count} findings` : ''}`;
  return (
    <span className={tone} title={text}>
      <span aria-hidden>{sign}</span>
      <span className="sr-only">{text}</span>
    </span>
  );
}

/** Sign of a severity, with its word for who does not see it. */
export function SeveritySign({ severity }: { severity: Severity }) {
  const { sign, word, tone } = MARK[severity];
  return (
    <span className={tone} title={word}>
      <span aria-hidden>{sign}</span>
      <span className="sr-only">{word}:</span>
    </span>
  );
}

export function SeverityWord({ severity }: { severity: Severity }) {
  const { sign, word, tone } = MARK[severity];
  return (
    <span className={`${tone} font-bold whitespace-nowrap`}>
      <span aria-hidden>{sign}</span> {word}
    </span>
  );
}

/** The rule of a finding in plain words. */
export const ruleWords = (rule: string): string =>
  rule
    .replaceAll('-', ' ')
    .replace(/\b(?:vlan|mtu|mac|ip|dns|dhcp)\b/g, (letters) => letters.toUpperCase());
