/** A change of platform as a whole: hosts emptied and rebuilt in turn, in how many windows, and by when. */
import { counted, formatDuration, type PlatformChange, type PlatformStage } from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { LinkField } from '../../components/link-field.js';
import { Field } from '../../components/field.js';
import { DayInput } from '../../components/iso-inputs.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

import { SettleFirst } from './settle-first.js';

const whole = (text: string, most: number): number | null =>
  /^\d{1,3}$/.test(text) && Number(text) >= 1 && Number(text) <= most ? Number(text) : null;

export function PlatformPage() {
  const platforms = useRead('platforms').data ?? [];
  const [draft, setDraft] = useState({
    ...{ from: '', to: '', hours: '8', every: '7', until: '', linkBitsPerSecond: 1e9 },
  });
  const set = (more: Partial<typeof draft>) => setDraft({ ...draft, ...more });
  const hours = whole(draft.hours, 168);
  const every = whole(draft.every, 92);
  const day = draft.until.trim();
  const sound = hours !== null && every !== null && (day === '' || /^\d{4}-\d{2}-\d{2}$/.test(day));
  const complete = draft.from !== '' && draft.to !== '' && draft.from !== draft.to && sound;
  const found = useRead(
    'platformChange',
    complete
      ? {
          ...{ fromPlatformId: draft.from, toPlatformId: draft.to },
          ...{ windowHours: hours, everyDays: every, linkBitsPerSecond: draft.linkBitsPerSecond },
          ...(day ? { until: day } : {}),
        }
      : null,
  );
  const choose = (label: string, field: 'from' | 'to') => (
    <Field label={label}>
      <select value={draft[field]} onChange={(event) => set({ [field]: event.target.value })}>
        <option value="">choose one</option>
        {platforms
          .filter(({ id }) => id !== draft[field === 'from' ? 'to' : 'from'])
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </Field>
  );
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Change of platform</h1>
      <div className="my-2 flex flex-wrap items-start gap-4">
        {choose('From', 'from')}
        {choose('To', 'to')}
        <Field label="Hours of a window" error={hours === null ? 'Write 1 to 168.' : undefined}>
          <input
            className="mono w-[90px]"
            inputMode="numeric"
            value={draft.hours}
            onChange={(event) => set({ hours: event.target.value })}
          />
        </Field>
        <Field label="A window every … days" error={every === null ? 'Write 1 to 92.' : undefined}>
          <input
            className="mono w-[90px]"
            inputMode="numeric"
            value={draft.every}
            onChange={(event) => set({ every: event.target.value })}
          />
        </Field>
        <Field label="Ended by" hint="empty: the first licence that ends">
          <DayInput value={draft.until} onValue={(until) => set({ until })} />
        </Field>
        <LinkField
          value={draft.linkBitsPerSecond}
          onChange={(rate) => set({ linkBitsPerSecond: rate })}
        />
      </div>
      {found.error && <p className="text-signal">{found.error.message}</p>}
      {!complete && (
        <p className="text-faint">
          Choose both platforms. Hosts of the old one are emptied one after another onto hosts of
          the new one, and rebuilt: what is rebuilt takes the guests of the next.
        </p>
      )}
      {complete && found.data && <Answer answer={found.data} />}
    </div>
  );
}

function Answer({ answer }: { answer: PlatformChange }) {
  const { stages, stuck, windows, ends, deadline, late, cut } = answer;
  const tooLong = stages.flatMap(({ moves, waves }) =>
    moves.filter(({ guest }) => waves.tooLong.includes(guest.id)).map(({ guest }) => guest.name),
  );
  const first = stages.findIndex(({ moves }) => moves.length > 0);
  return (
    <>
      <p className="my-1">
        {counted(stages.length, 'host')} can be emptied and rebuilt
        {stuck.length > 0 && `, ${stuck.length} cannot`}
        {windows > 0 && `; ${counted(windows, 'window')}, the last on ${ends}`}.{' '}
        {tooLong.length > 0 && (
          <b className="text-amber">
            ◆ Without {tooLong.join(', ')}: longer than may be planned into a window.{' '}
          </b>
        )}
        {deadline &&
          (late ? (
            <b className="text-signal">
              ■ After {deadline.day}, {deadline.of}.
            </b>
          ) : (
            <span className="text-faint">
              By {deadline.day}, {deadline.of}.
            </span>
          ))}
        {cut && ' The search was cut short: what it had by then stands here.'}
      </p>
      {stages.length + stuck.length === 0 && (
        <p className="text-faint">No host has the old platform.</p>
      )}
      {stages.map((stage, i) => (
        <Stage key={stage.host.id} stage={stage} place={i + 1} draws={i === first} />
      ))}
      {stuck.length > 0 && (
        <Part title="Not emptied">
          {stuck.map(({ host, guest, why }) => (
            <p key={host.id}>
              <Link className="font-bold underline decoration-rule" to={`/hosts/${host.id}`}>
                {host.name}
              </Link>{' '}
              <span className="text-signal">■ {guest} finds no place.</span> {why}
            </p>
          ))}
        </Part>
      )}
    </>
  );
}

function Stage({
  stage: { host, moves, waves },
  place,
  draws,
}: {
  stage: PlatformStage;
  place: number;
  draws: boolean;
}) {
  const mayPlan = useMayPlan();
  const windowOf = (id: string) => waves.windows.findIndex(({ ids }) => ids.includes(id)) + 1;
  return (
    <Part title={`${place}. ${host.name}`}>
      {moves.length === 0 && <p>Nothing runs on it: it is rebuilt at once.</p>}
      <ol aria-label={`Moves off ${host.name}`}>
        {moves.map(({ guest, target, pool, seconds, critical, first }) => (
          <li key={guest.id} className="border-b border-rule py-0.5">
            <Link className="font-bold underline decoration-rule" to={`/guests/${guest.id}`}>
              {guest.name}
            </Link>{' '}
            <span className="text-pencil">
              → {target.name}
              {pool && `, ${pool.name}`}
            </span>{' '}
            <span className="text-[13px] text-faint">
              {formatDuration(seconds[0])} to {formatDuration(seconds[1])}
              {windowOf(guest.id) ? `, window ${windowOf(guest.id)}` : ', longer than a window'}
              {critical && ', others need it'}
            </span>
            <SettleFirst first={first} />
          </li>
        ))}
      </ol>
      {mayPlan && draws && <DrawStage host={host} moves={moves} />}
    </Part>
  );
}

/** Only the first: the next ones stand on what it leaves. */
function DrawStage({ host, moves }: Pick<PlatformStage, 'host' | 'moves'>) {
  const { make, busy, problem } = useChange();
  const go = useNavigate();
  const draw = async () => {
    const written = await make('plan.draw-moves', {
      name: `${host.name} to its new platform`,
      purpose: 'Emptied, then rebuilt',
      linkBitsPerSecond: 1e9,
      moves: moves.map(({ guest, target, pool }) => ({
        ...{ guestId: guest.id, targetHostId: target.id, targetPoolId: pool?.id ?? null },
        running: false,
      })),
    });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) void go(`/plans/${made.id}`);
  };
  return (
    <>
      <button type="button" className="act" disabled={busy} onClick={() => void draw()}>
        Draw {counted(moves.length, 'move')} as a plan
      </button>
      <ProblemNote problem={problem} />
    </>
  );
}
