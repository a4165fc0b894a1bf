import type { FindingMark } from '@insel/contract';
import type { Finding, Severity } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChange } from '../frame/change.js';
import { useMayPlan } from '../frame/session.js';
import { AcceptForm, Accepted } from './acceptance.js';

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

export function SeverityWord({ severity }: { severity: Severity }) {
  const { sign, word, tone } = MARK[severity];
  return (
    <span className={`${tone} font-bold whitespace-nowrap`}>
      <span aria-hidden>{sign}</span> {word}
    </span>
  );
}

const OPEN: Record<string, string> = {
  host: 'hosts/',
  guest: 'guests/',
  network: 'networks/',
  migration: 'migrations/',
  pool: 'hosts/',
  device: 'networks/devices?open=',
  physicalSwitch: 'networks/switches?open=',
  switchLine: 'networks/switches?line=',
  rack: 'hosts/places?',
  hostGroup: 'hosts/places?',
  service: 'guests/start-order?service=',
  medium: 'guests/media?open=',
  guestGroup: 'guests/roles?open=',
  profile: 'guests/roles?role=',
  template: 'clones/templates?open=',
  entitlement: 'clones/licences?open=',
};

/** The rule of a finding in plain words. */
export const ruleWords = (rule: string): string =>
  rule
    .replaceAll('-', ' ')
    .replace(/\b(?:vlan|mtu|mac|ip|dns|dhcp)\b/g, (letters) => letters.toUpperCase());

/**
 * One finding: evidence, consequence, what to do, the rule and its source. Brief beside what it is about; among alike, the
 * rule, what follows and the source have been told.
 */
export function FindingLine({
  finding,
  brief = false,
  alike,
}: {
  finding: Finding;
  brief?: boolean;
  /** What has been told of all alike. */
  alike?: { consequence: boolean; remedy: boolean };
}) {
  const { makeThis, problem } = useChange();
  const go = useNavigate();
  const mayPlan = useMayPlan();
  const { mend, accepted } = finding;
  const [accepting, setAccepting] = useState(false);
  const act = async () => {
    if (!mend) return;
    if (mend.kind === 'change')
      await makeThis(mend.change, { seen: mend.expects, reason: finding.evidence });
    else await go(`/${pathFor(finding, mend.id)}`);
  };
  return (
    <div className={alike ? 'border-t border-rule py-1' : 'border-b border-rule py-2'}>
      {!alike && (
        <div className="flex flex-wrap items-baseline gap-x-2">
          <SeverityWord severity={finding.severity} />
          <span className="text-xs text-faint">{ruleWords(finding.rule)}</span>
        </div>
      )}
      <p>
        {finding.evidence} {!brief && !alike?.consequence && finding.consequence}{' '}
        {!alike?.remedy && <span className="text-faint">{finding.remedy}</span>}{' '}
        {mend && (mend.kind === 'open' || mayPlan) && !(brief && mend.kind === 'open') && (
          <button type="button" className="act" onClick={() => void act()}>
            {mend.label}
          </button>
        )}{' '}
        {mayPlan && !brief && !accepted && !accepting && (
          <button
            type="button"
            className="act ml-2 font-normal"
            aria-label={`Accept for a while: ${finding.evidence}`}
            onClick={() => setAccepting(true)}
          >
            Accept …
          </button>
        )}
      </p>
      {accepting && <AcceptForm finding={finding} close={() => setAccepting(false)} />}
      {accepted && <Accepted accepted={accepted} />}
      {!brief && !alike && <p className="text-xs text-faint">{finding.source.text}.</p>}
      {problem && <p className="text-signal">{problem.sentence}</p>}
    </div>
  );
}

function pathFor(finding: Finding, id: string): string {
  const area = finding.mend?.label.startsWith('Open the network')
    ? 'networks/'
    : finding.about.kind === 'pool' && id === finding.about.id
      ? 'guests/pools?open='
      : finding.rule === 'network-not-carried' || finding.about.kind === 'pool'
        ? 'hosts/'
        : (OPEN[finding.about.kind] ?? 'hosts/');
  return `${area}${id}`;
}
