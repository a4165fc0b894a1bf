/** Names as they were found: taken in from where they are served. */
import { useChangeForm } from '../../components/change-form.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useSettled } from '../../components/use-settled.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

export function TakeIn() {
  const mayPlan = useMayPlan();
  const kept = useKeptForm('take-names', () => ({ text: '', origin: '', source: '' }));
  const { values: draft, set, held } = kept;
  const settled = useSettled(draft, 300);
  const { text: pasted, origin } = settled;
  const seen = useRead('namesCompared', pasted.trim() ? { text: pasted, origin } : null, {
    once: true,
  });
  const { send, busy, problem } = useChangeForm(kept, {
    type: 'names.take',
    read: (typed) => [{ ...typed, source: typed.source || 'pasted' }],
    sent: () => set({ text: '', source: '' }),
  });
  const data = settled.text.trim() ? seen.data : undefined;
  return (
    <Part title="Take in">
      <p className="text-faint">
        A zone file or a hosts file as it stands somewhere: it is compared with the record, and what
        differs becomes findings. It alters no machine.
      </p>
      <div className="grid grid-cols-1 gap-3 md:grid-cols-[1fr_240px]">
        <Field label="Zone file or hosts file" of={held('text')}>
          <textarea
            className="mono h-28 text-[12px]"
            placeholder={'$ORIGIN nordholm.example.\ntide-db IN A 172.22.12.31'}
          />
        </Field>
        <div className="flex flex-col gap-2">
          <Field label="Origin, where the file says none" of={held('origin')}>
            <input className="mono" placeholder="nordholm.example" />
          </Field>
          <Field
            label="Which file is it"
            of={held('source')}
            hint="taken again, it replaces itself"
          >
            <input placeholder="nordholm.example.zone" />
          </Field>
        </div>
      </div>
      <p>
        <input
          type="file"
          aria-label="A zone file or hosts file"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            void file?.text().then((text) => set({ text, source: file.name }));
          }}
        />
      </p>
      {seen.error && <p className="text-signal">{seen.error.message}</p>}
      {data && (
        <div className="my-1">
          <p>
            <b>{data.names.length} names read</b>, {data.agree} agree with the record,{' '}
            {data.differ.length} do not
            {Object.keys(data.passedOver).length > 0 &&
              `; passed over: ${Object.entries(data.passedOver)
                .map(([type, count]) => `${count} ${type}`)
                .join(', ')}`}
            .
          </p>
          {data.faults.slice(0, 20).map((fault) => (
            <p key={`${fault.line} ${fault.sentence}`} className="text-[13px] text-signal">
              line {fault.line}: {fault.sentence}
            </p>
          ))}
          {data.differ.slice(0, 30).map((one) => (
            <p key={`${one.line} ${one.sentence}`} className="text-[13px]">
              line {one.line}: {one.sentence}
            </p>
          ))}
          {mayPlan && (
            <button
              type="button"
              className="press mt-1"
              disabled={busy || data.names.length === 0}
              onClick={() => void send()}
            >
              Take these names in
            </button>
          )}
        </div>
      )}
      <ProblemNote problem={problem} />
    </Part>
  );
}

export function Sources() {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const sources = useRead('nameSources').data ?? [];
  return (
    <Part title="Taken in">
      {sources.map(({ source, names }) => (
        <p key={source} className="flex gap-4">
          <b className="mono">{source}</b> {names} names{' '}
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              onClick={() => void make('names.forget', { source })}
            >
              Forget it
            </button>
          )}
        </p>
      ))}
      {sources.length === 0 && (
        <p className="text-faint">
          No file yet: missing and differing names are found once there is one.
        </p>
      )}
      <ProblemNote problem={problem} />
    </Part>
  );
}
