/** Computers that run no guests, seen together as guests: where they would go, what is freed, in how many windows. */
import { formatBinary, formatDuration, type Consolidated } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { LinkField } from '../../components/link-field.js';
import { Field } from '../../components/field.js';
import { Figure } from '../../components/workings.js';
import { useRead } from '../../client/read.js';
import { Sums } from './consolidation-sums.js';

import { SettleFirst } from './settle-first.js';
import { NamedSelect } from '../../components/named-select.js';

export function ComputersPage() {
  const computers = useRead('devices', { kind: 'computer', take: 60 }).data;
  const groups = useRead('hostGroups').data ?? [];
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [draft, setDraft] = useState({ groupId: '', hours: '8', linkBitsPerSecond: 1e9 });
  const set = (more: Partial<typeof draft>) => setDraft({ ...draft, ...more });
  // What is off or retired has gone over already, or waits for a guest.
  const running = (computers?.rows ?? []).filter(({ state }) => state === 'in service');
  const chosen = running.filter(({ id }) => !left.has(id));
  const hours = /^\d{1,3}$/.test(draft.hours) ? Number(draft.hours) : 0;
  const sound = hours >= 1 && hours <= 168;
  const question = {
    deviceIds: chosen.map(({ id }) => id),
    groupId: draft.groupId || null,
    windowHours: hours,
    linkBitsPerSecond: draft.linkBitsPerSecond,
  };
  const found = useRead('consolidation', sound && chosen.length > 0 ? question : null, {
    keep: true,
  });
  if (!computers) return null;
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Computers into guests</h1>
      {running.length === 0 ? (
        <p className="text-faint">
          No computer in service is recorded.{' '}
          <Link className="act" to="/networks/devices">
            Record one among the devices
          </Link>
          , with what it prints of itself: here is then seen which host takes it.
        </p>
      ) : (
        <div className="my-2 flex flex-wrap items-end gap-4">
          <Field label="Hosts">
            <NamedSelect
              value={draft.groupId}
              onChange={(event) => set({ groupId: event.target.value })}
              rows={groups}
              none="whichever fits"
            />
          </Field>
          <Field
            label="Hours of a window"
            error={sound ? undefined : 'Write 1 to 168 whole hours.'}
          >
            <input
              className="mono w-[90px]"
              inputMode="numeric"
              value={draft.hours}
              onChange={(event) => set({ hours: event.target.value })}
            />
          </Field>
          <LinkField
            value={draft.linkBitsPerSecond}
            onChange={(rate) => set({ linkBitsPerSecond: rate })}
          />
        </div>
      )}
      {found.error && <p className="text-signal">{found.error.message}</p>}
      <ul aria-label="Computers">
        {running.map((row) => (
          <Row
            key={row.id}
            row={row}
            ticked={!left.has(row.id)}
            move={found.data?.moves.find(({ device }) => device.id === row.id)}
            tick={(ticked) => {
              const next = new Set(left);
              if (ticked) next.delete(row.id);
              else next.add(row.id);
              setLeft(next);
            }}
          />
        ))}
      </ul>
      {found.data && chosen.length > 0 && <Sums answer={found.data} />}
    </div>
  );
}

function Row({
  row,
  ticked,
  move,
  tick,
}: {
  row: { id: string; name: string };
  ticked: boolean;
  move: Consolidated | undefined;
  tick: (ticked: boolean) => void;
}) {
  return (
    <li className="grid grid-cols-1 items-baseline gap-x-4 md:grid-cols-[minmax(140px,180px)_190px_minmax(160px,1fr)_minmax(200px,1.4fr)] border-b border-rule py-1">
      <span className="flex items-baseline gap-2">
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={ticked}
            onChange={(event) => tick(event.target.checked)}
            aria-label={`Look at ${row.name}`}
          />
        </label>
        <Link
          className="font-bold underline decoration-rule"
          to={`/networks/devices?open=${row.id}`}
        >
          {row.name}
        </Link>
      </span>
      {ticked && move && (
        <>
          <span>
            <Figure figure={move.size.vcpu} />, <Figure figure={move.size.memory} />
            {move.size.unmeasured && (
              <span className="block text-[13px] text-faint">not measured</span>
            )}
          </span>
          {move.target ? (
            <span className="text-pencil">
              <Link className="underline decoration-rule" to={`/hosts/${move.target.hostId}`}>
                {move.target.host}
              </Link>
              , {move.target.pool}
              <span className="block text-[13px]">
                {formatBinary(move.bytes)}
                {move.seconds &&
                  `, ${formatDuration(move.seconds[0])} to ${formatDuration(move.seconds[1])}`}
              </span>
            </span>
          ) : move.moving ? (
            <Link className="underline decoration-rule" to={`/migrations/${move.moving.id}`}>
              moves already: {move.moving.state}
            </Link>
          ) : (
            <span className="text-signal">■ {move.why}</span>
          )}
          <First move={move} />
        </>
      )}
    </li>
  );
}

/** What must come first, folded behind its number. */
function First({ move: { first, unknown, target, device } }: { move: Consolidated }) {
  if (!target && first.length === 0) return <span />;
  return (
    <span className="text-[13px]">
      <SettleFirst first={first} />
      {unknown.length > 0 && (
        <span className="block">
          <b className="text-amber">?</b> nobody knows: {[...new Set(unknown)].join(', ')}
        </span>
      )}
      {target && (
        <Link className="act" to={`/migrations/new-physical?device=${device.id}`}>
          Plan it alone
        </Link>
      )}
    </span>
  );
}
