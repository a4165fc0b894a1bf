/** What happens to each guest when a host, a rack or a site fails, and which of them may. */
import type { FailureView } from '@insel/contract';
import {
  counted,
  formatDuration,
  formatMemory,
  type ComesUp,
  type Tolerance,
  type ToleranceLine,
  type Way,
} from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Figure } from '../../components/workings.js';
import { useRead } from '../../client/read.js';

const TONE: Partial<Record<Way, string>> = {
  lost: 'text-signal',
  backup: 'text-amber',
  waits: 'text-amber',
};
const SIGN: Partial<Record<Way, string>> = { lost: '■ lost: ', backup: '◆ ', waits: '◆ ' };

export function FailurePanel({ outcome }: { outcome: FailureView }) {
  const { failed, guests, counts, answer } = outcome;
  const back = counts.restart + counts.replica;
  const title = `If ${failed.name} ${failed.kind === 'hosts' ? 'fail' : 'fails'}`;
  const parts = [
    back &&
      `${back} ${back === 1 ? 'restarts' : 'restart'} elsewhere${counts.replica ? `, ${counts.replica} of them from a replica` : ''}`,
    counts.waits && `${counts.waits} ${counts.waits === 1 ? 'is' : 'are'} down with intact disks`,
    counts.backup && `${counts.backup} from a backup`,
    counts.lost && `${counts.lost} ${counts.lost === 1 ? 'is' : 'are'} lost`,
  ].filter(Boolean);
  return (
    <section aria-label={title}>
      <h2 className="text-[17px] font-bold">{title}</h2>
      <p className="text-faint">
        {guests.length === 0
          ? 'No running guest loses its place.'
          : `${counted(guests.length, 'guest loses its place', 'guests lose their place')}: ${parts.join(', ')}.`}
      </p>
      {answer === 'not settled' && (
        <p className="text-amber">
          ◆ Not settled: no placement was found, and no proof that there is none.
        </p>
      )}
      {outcome.comesUp && <ComesUpLine comesUp={outcome.comesUp} />}
      {outcome.mend && <p className="mt-1 font-bold">{outcome.mend}</p>}
      <ul className="mt-2">
        {guests.map((guest) => (
          <li
            key={guest.guestId}
            className="grid grid-cols-[108px_1fr] gap-2 border-b border-rule py-1"
          >
            <Link className="truncate font-bold" to={`/guests/${guest.guestId}`}>
              {guest.name}
            </Link>
            <span className={TONE[guest.way] ?? ''}>
              {SIGN[guest.way]}
              {guest.sentence}
              {outcome.comesUp?.up[guest.guestId] !== undefined && (
                <span className="text-faint">
                  , of use after {formatDuration(outcome.comesUp.up[guest.guestId]!)}
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
      {outcome.left ? (
        <p className="mt-2">
          Left afterwards on {counted(outcome.left.hosts, 'host that stays', 'hosts that stay')}:{' '}
          <Figure figure={outcome.left.memory} rounding="down" /> of memory, no gap larger than{' '}
          <span className="mono">{formatMemory(outcome.left.largestGap.memoryMiB, 'down')}</span> (
          {outcome.left.largestGap.name}), and <Figure figure={outcome.left.vcpu} rounding="down" />
          .
        </p>
      ) : (
        <p className="mt-2">No host stays in service.</p>
      )}
      <p className="mt-2 text-xs text-faint">
        Looked at in this order: storage within reach, level, networks, rules, room. What policies
        keep free counts as room here. Running guests only. {outcome.assumes}
      </p>
    </section>
  );
}

/** When those that restart are of use, and who never is: what it needs was hit as well. */
function ComesUpLine({ comesUp: { seconds, last, blocked } }: { comesUp: ComesUp }) {
  return (
    <>
      {last && (
        <p>
          All that come up are of use <b className="mono">{formatDuration(seconds)}</b> after they
          are started, {last} last: what each needs and what its host starts at once is counted.
        </p>
      )}
      {blocked.map(({ guestId, name, waitsFor }) => (
        <p key={guestId}>
          <b className="text-amber">◆ {name} is started and never of use:</b> it waits for{' '}
          {waitsFor.join(', ')}.
        </p>
      ))}
    </>
  );
}

export function TolerancePanel({
  view,
  choose,
}: {
  view: Tolerance | undefined;
  choose: (kind: string, id: string) => void;
}) {
  if (!view)
    return <p className="text-faint">Looking at every host, rack, site, switch and feed …</p>;
  const { hosts, racks, sites, switches, feeds } = view;
  const mayFail = hosts.filter(({ answer }) => answer === 'all restart').length;
  const group = (title: string, lines: ToleranceLine[]) =>
    lines.length > 0 && (
      <section aria-label={title} className="mt-3">
        <h3 className="text-xs font-bold text-faint">{title}</h3>
        {lines.slice(0, 60).map((line) => (
          <button
            key={line.failed.id}
            type="button"
            className="grid w-full cursor-pointer grid-cols-[120px_1fr] gap-2 border-b border-rule py-1 text-left"
            onClick={() => choose(line.failed.kind, line.failed.id)}
          >
            <b className="truncate">{line.failed.name}</b>
            <span>{toleranceWords(line)}</span>
          </button>
        ))}
        {lines.length > 60 && <p className="text-faint">and {lines.length - 60} more</p>}
      </section>
    );
  const worst = (a: ToleranceLine, b: ToleranceLine) =>
    b.counts.lost - a.counts.lost ||
    b.counts.backup - a.counts.backup ||
    b.counts.waits - a.counts.waits ||
    a.failed.name.localeCompare(b.failed.name);
  return (
    <section aria-label="What may fail">
      <h2 className="text-[17px] font-bold">What may fail</h2>
      <p className="text-faint">
        {hosts.length === 0
          ? 'No host is in service yet.'
          : hosts.length === 1
            ? 'One host alone may not fail: there is none beside it to take its guests.'
            : mayFail === hosts.length
              ? 'Any one host may fail: every guest finds its place.'
              : `${mayFail} of ${hosts.length} hosts may fail without a guest left down.`}
      </p>
      {group('Hosts', [...hosts].sort(worst))}
      {group('Racks', [...racks].sort(worst))}
      {group('Sites', [...sites].sort(worst))}
      {group('Switches', [...switches].sort(worst))}
      {group('Power feeds', [...feeds].sort(worst))}
      {hosts.length > 2 && <Pairs choose={choose} />}
    </section>
  );
}

/** Two hosts at once: many questions, asked when somebody wants to know. */
function Pairs({ choose }: { choose: (kind: string, id: string) => void }) {
  const [wanted, setWanted] = useState(false);
  const found = useRead('pairs', wanted ? {} : null).data;
  if (!wanted)
    return (
      <button type="button" className="act mt-3" onClick={() => setWanted(true)}>
        And any two hosts at once?
      </button>
    );
  if (!found) return <p className="mt-3 text-faint">Looking at every two hosts of a group …</p>;
  const { pairs, mayFail, mayNot, notSettled, leftOut } = found;
  return (
    <section aria-label="Two hosts at once" className="mt-3">
      <h3 className="text-xs font-bold text-faint">Two hosts of a group at once</h3>
      <p>
        {mayFail} of {counted(pairs, 'pair')} may fail without a guest left down.
        {leftOut.length > 0 && (
          <span className="text-faint"> Too many hosts to ask of: {leftOut.join(', ')}.</span>
        )}
      </p>
      {[...notSettled, ...mayNot].slice(0, 60).map((line) => (
        <button
          key={line.failed.id}
          type="button"
          className="w-full cursor-pointer border-b border-rule py-1 text-left"
          onClick={() => choose(line.failed.kind, line.failed.id)}
        >
          <b>{line.failed.name}</b> {toleranceWords(line)}
        </button>
      ))}
      {mayNot.length > 60 && <p className="text-faint">and {mayNot.length - 60} more</p>}
    </section>
  );
}

function toleranceWords({ answer, counts }: ToleranceLine) {
  if (answer === 'all restart')
    return (
      <span>
        {counts.restart + counts.replica === 0
          ? 'no guest runs there'
          : `may fail: ${counts.restart + counts.replica} restart`}
      </span>
    );
  if (answer === 'not settled') return <span className="text-amber">◆ not settled</span>;
  return (
    <span>
      {counts.lost > 0 && <b className="text-signal">■ {counts.lost} lost</b>}
      {counts.lost > 0 && counts.backup > 0 && ', '}
      {counts.backup > 0 && <b className="text-amber">◆ {counts.backup} from backup</b>}
      {counts.waits > 0 && (
        <b className="text-amber">
          {counts.lost + counts.backup > 0 && ', '}◆ {counts.waits} down, disks intact
        </b>
      )}
      {counts.restart + counts.replica > 0 && `, ${counts.restart + counts.replica} restart`}
    </span>
  );
}
