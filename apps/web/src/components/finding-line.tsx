/** Findings: told in full in their list, in one line each on the sheet of what they are about. */
import type { Finding } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChange } from '../client/change.js';
import { useMayPlan } from '../client/session.js';
import { AcceptForm, Accepted } from './acceptance.js';
import { FindingSince, SinceWhen } from './finding-age.js';
import { ruleWords, SeveritySign, SeverityWord } from './mark.js';

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
  powerFeed: 'hosts/places?',
  hostGroup: 'hosts/places?',
  service: 'guests/start-order?service=',
  medium: 'guests/media?open=',
  guestGroup: 'guests/roles?open=',
  profile: 'guests/roles?role=',
  template: 'clones/templates?open=',
  entitlement: 'clones/licences?open=',
};

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
  const { act, problem } = useMend(finding);
  const mayPlan = useMayPlan();
  const { mend, accepted } = finding;
  const [accepting, setAccepting] = useState(false);
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
        {!brief && <SinceWhen finding={finding} />}
      </p>
      {accepting && <AcceptForm finding={finding} close={() => setAccepting(false)} />}
      {accepted && <Accepted accepted={accepted} />}
      {!brief && !alike && <p className="text-xs text-faint">{finding.source.text}.</p>}
      {problem && <p className="text-signal">{problem.sentence}</p>}
    </div>
  );
}

/** Those of one record, a line each: what is seen, and its mend; opened, what follows, what to do, and accepting it. */
export function SheetFindings({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null;
  return (
    <ul aria-label="Findings" className="mb-2">
      {findings.map((finding) => (
        <OnSheet key={finding.id} finding={finding} />
      ))}
    </ul>
  );
}

function OnSheet({ finding }: { finding: Finding }) {
  const { act, problem } = useMend(finding);
  const mayPlan = useMayPlan();
  const [open, setOpen] = useState(false);
  const [accepting, setAccepting] = useState(false);
  const { mend, accepted } = finding;
  return (
    <li className="border-b border-rule">
      <div className="flex items-baseline gap-2">
        <button
          type="button"
          aria-expanded={open}
          title="What follows, and what to do"
          className="min-h-6 flex-1 cursor-pointer py-0.5 text-left"
          onClick={() => setOpen(!open)}
        >
          <SeveritySign severity={finding.severity} /> {finding.evidence}
        </button>
        {mend?.kind === 'change' && mayPlan && (
          <button type="button" className="act whitespace-nowrap" onClick={() => void act()}>
            {mend.label}
          </button>
        )}
      </div>
      {open && (
        <div className="pb-1.5 pl-5 text-[13px]">
          <p>
            {finding.consequence} <span className="text-faint">{finding.remedy}</span>
          </p>
          <p className="text-xs text-faint">
            {ruleWords(finding.rule)}; {finding.source.text}. <FindingSince finding={finding} />{' '}
            {mayPlan && !accepted && !accepting && (
              <button
                type="button"
                className="act font-normal"
                aria-label={`Accept for a while: ${finding.evidence}`}
                onClick={() => setAccepting(true)}
              >
                Accept …
              </button>
            )}
          </p>
          {accepting && <AcceptForm finding={finding} close={() => setAccepting(false)} />}
        </div>
      )}
      {accepted && <Accepted accepted={accepted} />}
      {problem && <p className="text-signal">{problem.sentence}</p>}
    </li>
  );
}

/** Does what mends it: the change itself, or the record opened at which it is mended. */
function useMend(finding: Finding) {
  const { makeThis, problem } = useChange();
  const go = useNavigate();
  const { mend } = finding;
  const act = async () => {
    if (!mend) return;
    if (mend.kind === 'change')
      await makeThis(mend.change, { seen: mend.expects, reason: finding.evidence });
    else await go(`/${pathFor(finding, mend.id)}`);
  };
  return { act, problem };
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
