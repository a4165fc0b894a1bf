/** Computers that run no guests, seen together as guests: where they would go, what is freed, in how many windows. */
import {
  counted,
  formatBinary,
  formatDuration,
  printValue,
  type Consolidated,
  type Consolidation,
  type Freed,
} from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { errorsOf, Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { Figure } from '../../components/workings.js';
import { useChange } from '../../frame/change.js';
import { useRead } from '../../frame/read.js';
import { useMayPlan } from '../../frame/session.js';
import { LinkField } from './move-fields.js';

export function ComputersPage() {
  const computers = useRead('devices', { kind: 'computer', take: 60 }).data;
  const groups = useRead('hostGroups').data ?? [];
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [draft, setDraft] = useState({ groupId: '', hours: '8', link: '1000000000' });
  const set = (more: Partial<typeof draft>) => setDraft({ ...draft, ...more });
  // What is off or retired has gone over already, or waits for a guest.
  const running = (computers?.rows ?? []).filter(({ state }) => state === 'in service');
  const chosen = running.filter(({ id }) => !left.has(id));
  const hours = /^\d{1,3}$/.test(draft.hours) ? Number(draft.hours) : 0;
  const sound = hours >= 1 && hours <= 168;
  const asked = {
    deviceIds: chosen.map(({ id }) => id),
    groupId: draft.groupId || null,
    windowHours: hours,
    linkBitsPerSecond: Number(draft.link),
  };
  const found = useRead('consolidation', sound && chosen.length > 0 ? asked : null, {
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
            <select
              value={draft.groupId}
              onChange={(event) => set({ groupId: event.target.value })}
            >
              <option value="">whichever fits</option>
              {groups.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
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
          <LinkField of={draft} set={set} />
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
      {first.length > 0 && (
        <details>
          <summary className="min-h-6 cursor-pointer text-amber">
            ◆ {first.length} to settle first
          </summary>
          {first.map(({ sentence, remedy }) => (
            <p key={sentence}>
              {sentence} <span className="text-faint">{remedy}</span>
            </p>
          ))}
        </details>
      )}
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

const freedWords = ({ known, unknown }: Freed, unit: string): string =>
  `${known} ${unit}${unknown.length ? `, without ${unknown.join(', ')}: not recorded` : ''}`;

function Sums({ answer: { moves, freed, tolerance, waves } }: { answer: Consolidation }) {
  const mayPlan = useMayPlan();
  const placed = moves.filter(({ target }) => target !== null);
  const asked = moves.filter(({ moving }) => moving === null);
  const name = (id: string) => moves.find(({ device }) => device.id === id)?.device.name;
  return (
    <div className="mt-3">
      <Part title="Together">
        <p>
          {placed.length} of {counted(asked.length, 'computer')}{' '}
          {placed.length === 1 ? 'has' : 'have'} a host that takes{' '}
          {placed.length === 1 ? 'it' : 'them'}
          {tolerance && (
            <>
              ; one host may fail without a guest left down: {tolerance.before} of{' '}
              {counted(tolerance.asked, 'host')} now, {tolerance.after} then
              {tolerance.worse.length > 0 && (
                <b className="text-signal">
                  {' '}
                  ■ worse:{' '}
                  {tolerance.worse.map((one) => `${one.name} (${one.down} down)`).join(', ')}
                </b>
              )}
            </>
          )}
          .
        </p>
      </Part>
      <Part title="Freed">
        <p>
          {freedWords(freed.rackUnits, 'rack units')}; {freedWords(freed.sockets, 'sockets')};{' '}
          {freedWords(freed.watts, 'W')}.
        </p>
        <p className="text-[13px] text-faint">
          Nothing is added: the hosts are there. What they draw more under load is not counted.
          Watts are planning figures: circuits and supplies are for a licensed electrician.
        </p>
      </Part>
      <Part title="Windows">
        <ol aria-label="Windows">
          {waves.windows.map(({ ids, minutes }, i) => (
            <li key={ids[0]}>
              <b>
                {i + 1}
                {i === 0 && ', the pilot'}
              </b>{' '}
              {ids.map(name).join(', ')}{' '}
              <span className="text-[13px] text-faint">{formatDuration(minutes * 60)}</span>
            </li>
          ))}
        </ol>
        {waves.tooLong.length > 0 && (
          <p className="text-amber">
            ◆ {waves.tooLong.map(name).join(', ')}: longer than the{' '}
            {formatDuration(waves.most * 60)} that may be planned into a window. A first pass while
            it runs, days before, leaves only the last one; or a longer window.
          </p>
        )}
        <p className="text-[13px] text-faint">
          {counted(waves.windows.length, 'window')}; fewer than {waves.fewest} cannot be. Planned to{' '}
          {printValue(60, 'percent')} of a window, two as the pilot, then five, then six; of files,
          finance and what others need one a window (common practice, no source).
        </p>
        {mayPlan && placed.length > 0 && <Draw moves={placed} windows={waves.windows} />}
      </Part>
    </div>
  );
}

function Draw({
  moves,
  windows,
}: {
  moves: readonly Consolidated[];
  windows: Consolidation['waves']['windows'];
}) {
  const { make, busy, problem } = useChange();
  const go = useNavigate();
  const [name, setName] = useState('computers into guests');
  const windowOf = (id: string) => windows.findIndex(({ ids }) => ids.includes(id));
  const draw = async () => {
    // Those that fit no window come last.
    const order = (id: string) => (windowOf(id) < 0 ? windows.length : windowOf(id));
    const steps = [...moves].sort((a, b) => order(a.device.id) - order(b.device.id));
    const written = await make('plan.draw-programme', {
      name,
      moves: steps.map(({ input, device }) => ({
        ...input!,
        remark: windowOf(device.id) < 0 ? 'fits no window' : `window ${windowOf(device.id) + 1}`,
      })),
    });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void draw();
      }}
    >
      <Field label="Name of the plan" error={errorsOf(problem).name}>
        <input value={name} onChange={(event) => setName(event.target.value)} />
      </Field>
      <button type="submit" className="act" disabled={busy}>
        Draw {counted(moves.length, 'computer')} as a plan
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
