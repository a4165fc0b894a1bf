/** Verifications of a host: the last run, earlier ones, and a run to be recorded. */
import type { HostSheet, VerificationView } from '@insel/contract';
import { useState } from 'react';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';

export function VerificationPart({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const [open, setOpen] = useState(false);
  const [last, ...earlier] = sheet.verifications;
  return (
    <Part title="Verification">
      {last ? <Run run={last} current /> : <p className="text-faint">Never verified.</p>}
      {earlier.length > 0 && (
        <details>
          <summary className="cursor-pointer text-[13px] text-faint">
            {earlier.length} earlier
          </summary>
          {earlier.map((run) => (
            <Run key={run.id} run={run} />
          ))}
        </details>
      )}
      {mayPlan && !open && (
        <button type="button" className="act" onClick={() => setOpen(true)}>
          Record a run of tests
        </button>
      )}
      {open && <RecordRun sheet={sheet} close={() => setOpen(false)} />}
    </Part>
  );
}

function Run({ run, current = false }: { run: VerificationView; current?: boolean }) {
  const failed = run.tests.filter((test) => !test.passed);
  const words = failed.length
    ? `${failed.length} of ${run.tests.length} tests failed: ${failed.map(({ test, remark }) => `${test}${remark ? ` (${remark})` : ''}`).join(', ')}`
    : `all ${run.tests.length} tests passed`;
  return (
    <p>
      {run.at.slice(0, 10)}, {run.by}:{' '}
      <span className={failed.length ? 'text-signal' : ''}>{words}</span>
      {run.remark && <span className="text-faint"> · {run.remark}</span>}
      {current && !run.counts && failed.length === 0 && (
        <span className="text-amber"> ◆ its network was altered since</span>
      )}
    </p>
  );
}

export type TestStates = Record<string, { result: 'open' | 'passed' | 'failed'; remark: string }>;

/** Named tests, each passed, failed or not run. */
export function TestList({
  tests,
  states,
  set,
}: {
  tests: HostSheet['tests'];
  states: TestStates;
  set: (states: TestStates) => void;
}) {
  const of = (test: string) => states[test] ?? { result: 'open' as const, remark: '' };
  return (
    <ul>
      {tests.map(({ test, text }) => (
        <li
          key={test}
          className="grid grid-cols-[110px_1fr_170px] items-center gap-2 border-b border-rule py-0.5"
        >
          <select
            aria-label={`Result: ${text}`}
            value={of(test).result}
            onChange={(event) =>
              set({ ...states, [test]: { ...of(test), result: event.target.value as 'open' } })
            }
          >
            <option value="open">not run</option>
            <option value="passed">passed</option>
            <option value="failed">failed</option>
          </select>
          <span>{text}</span>
          <input
            aria-label={`Remark: ${text}`}
            placeholder="remark"
            value={of(test).remark}
            onChange={(event) =>
              set({ ...states, [test]: { ...of(test), remark: event.target.value } })
            }
          />
        </li>
      ))}
    </ul>
  );
}

export const resultsOf = (states: TestStates) =>
  Object.entries(states)
    .filter(([, { result }]) => result !== 'open')
    .map(([test, { result, remark }]) => ({ test, passed: result === 'passed', remark }));

function RecordRun({ sheet, close }: { sheet: HostSheet; close: () => void }) {
  const { make, busy, problem } = useChange();
  const [states, set] = useState<TestStates>({});
  const all = () =>
    set(
      Object.fromEntries(
        sheet.tests.map(({ test }) => [
          test,
          { result: 'passed' as const, remark: states[test]?.remark ?? '' },
        ]),
      ),
    );
  return (
    <div className="my-1">
      <TestList tests={sheet.tests} states={states} set={set} />
      <ProblemNote problem={problem} />
      <p className="mt-1 flex gap-3">
        <button
          type="button"
          className="press"
          disabled={busy}
          onClick={() =>
            void make('host.verify', {
              hostId: sheet.host.id,
              tests: resultsOf(states),
            }).then((written) => written && close())
          }
        >
          Record the run
        </button>
        <button type="button" className="act" onClick={all}>
          All passed
        </button>
        <button type="button" className="act" onClick={close}>
          Drop
        </button>
      </p>
    </div>
  );
}
