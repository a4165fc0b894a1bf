/** How long measured samples are kept as they were taken, by the hour and by the day. */
import { SampleKeepingBody, type SampleKeeping } from '@insel/contract';
import { counted } from '@insel/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { requestOf } from '@insel/contract/read-paths';
import { useReadBodyForm } from '../../components/body-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { call } from '../../client/api.js';
import { useRead } from '../../client/read.js';
import { useAccount } from '../../client/session.js';

const PATH = requestOf('sampleKeeping').path;

export function SampleKeepingPart() {
  const keeping = useRead('sampleKeeping').data;
  const { role } = useAccount();
  const [open, setOpen] = useState(false);
  if (!keeping) return null;
  const { wholeDays, hourDays, dayDays, by, at, whole, hours, days } = keeping;
  return (
    <section aria-label="How long samples are kept">
      <h2 className="mt-5 border-b border-ink font-bold">How long they are kept</h2>
      <p>
        As they were taken for {counted(wholeDays, 'day')}, then summed up by the hour until{' '}
        {counted(hourDays, 'day')} old, then by the day{' '}
        {dayDays === null ? 'for good' : `until ${counted(dayDays, 'day')} old`}.{' '}
        <span className="text-faint">
          {by === null ? 'Usual; nobody said otherwise.' : `Said by ${by} on ${at!.slice(0, 10)}.`}
        </span>
      </p>
      <p className="text-faint">
        There are {counted(whole, 'whole sample')}, {counted(hours, 'hour')} and{' '}
        {counted(days, 'day')}. Percentiles are taken of whole samples; what is summed up keeps its
        mean and its largest.
      </p>
      {role === 'administrator' && !open && (
        <button type="button" className="act" onClick={() => setOpen(true)}>
          Keep them otherwise
        </button>
      )}
      {open && <KeepForm keeping={keeping} close={() => setOpen(false)} />}
    </section>
  );
}

const FIELDS = [
  ['wholeDays', 'Days as they were taken'],
  ['hourDays', 'Days by the hour'],
  ['dayDays', 'Days by the day, empty: for good'],
] as const;

function KeepForm({ keeping, close }: { keeping: SampleKeeping; close: () => void }) {
  const client = useQueryClient();
  const { held, send, problem } = useReadBodyForm(
    SampleKeepingBody,
    () => ({
      wholeDays: String(keeping.wholeDays),
      hourDays: String(keeping.hourDays),
      dayDays: keeping.dayDays === null ? '' : String(keeping.dayDays),
    }),
    ({ wholeDays, hourDays, dayDays }) => ({
      wholeDays: Number(wholeDays),
      hourDays: Number(hourDays),
      dayDays: dayDays.trim() === '' ? null : Number(dayDays),
    }),
    async (body) => {
      await call('PUT', PATH, { body });
      await client.invalidateQueries();
      close();
    },
  );
  return (
    <form className="mt-2 flex flex-wrap items-end gap-3" onSubmit={(event) => void send(event)}>
      {FIELDS.map(([name, label]) => (
        <Field key={name} label={label} of={held(name)}>
          <input inputMode="numeric" className="mono w-[180px]" />
        </Field>
      ))}
      <button type="submit" className="act">
        Keep them so
      </button>
      <button type="button" className="act" onClick={close}>
        Drop
      </button>
      <p className="basis-full text-[13px] text-faint">
        It is done at once: what is summed up is not taken apart again.
      </p>
      <ProblemNote problem={problem} />
    </form>
  );
}
