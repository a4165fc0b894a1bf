/** The build sheet of a host on screen and on paper, and the results of building it. */
import type { HostSheet } from '@insel/contract';
import { KINDS, type DecidedBy, type SheetLine } from '@insel/core';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { Field } from '../../components/field.js';
import { localOf, MinuteInput, minuteHere } from '../../components/iso-inputs.js';
import { BuildSection, Undecided } from '../../components/build-sections.js';
import { PrintedDifferences } from '../../components/differences.js';
import { ProblemNote } from '../../components/problem.js';
import { OneOf } from '../../components/small-edits.js';
import { resultsOf, TestList, type TestStates } from './sheet-verification.js';
import { useRead, hrefOf } from '../../client/read.js';

export function BuildSheetPage() {
  const { id = '' } = useParams();
  const mayPlan = useMayPlan();
  const build = useRead('hostBuild', { id });
  const sheet = useRead('host', { id }).data;
  if (build.error) return <p className="p-6 text-signal">{build.error.message}</p>;
  if (!build.data || !sheet) return null;
  const { host, platform, sections, undecided } = build.data;
  const unbuilt = sheet.host.state === 'planned' || sheet.host.state === 'building';
  return (
    <div className="h-full overflow-y-auto px-6 py-4 print:overflow-visible print:p-0">
      <div className="mx-auto max-w-[860px]">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1>Build sheet of {host}</h1>
          <span className="text-faint">{platform}</span>
          <span className="no-print ml-auto flex gap-4">
            <button type="button" className="act" onClick={() => window.print()}>
              Print
            </button>
            <a
              className="act"
              href={hrefOf('hostBuildPage', { id })}
              download={`build-sheet-${sheet.host.name}.html`}
            >
              Save as one page
            </a>
            <Link className="act" to={`/hosts/${id}`}>
              Back to {sheet.host.name}
            </Link>
          </span>
        </div>
        <Undecided what={undecided} />
        {sections.map((section) => (
          <BuildSection key={section.title} title={section.title}>
            {section.lines.map((line, i) => (
              <Line key={i} line={line} host={sheet.host} />
            ))}
          </BuildSection>
        ))}
        <PrintedDifferences />
        {mayPlan && unbuilt && <Results sheet={sheet} />}
      </div>
    </div>
  );
}

function Line({
  line: { text, value, caution, field },
  host,
}: {
  line: SheetLine;
  host: HostSheet['host'];
}) {
  return (
    <li className="grid break-inside-avoid grid-cols-[18px_1fr] min-[520px]:grid-cols-[18px_280px_1fr] gap-x-2 border-b border-rule py-0.5">
      <span className="mt-1 h-3 w-3 border border-ink" aria-hidden />
      <span className={value === undefined ? 'min-[520px]:col-span-2' : ''}>{text}</span>
      {value === null && (
        <span className="col-start-2 border-b border-dotted border-ink text-faint min-[520px]:col-start-auto print:text-transparent">
          {field ? <Decide host={host} text={text} field={field} /> : 'not decided'}
        </span>
      )}
      {typeof value === 'string' && (
        <span className="mono col-start-2 break-all min-[520px]:col-start-auto">{value}</span>
      )}
      {caution && (
        <span className="col-start-2 text-[13px] min-[520px]:col-span-2">
          <b className="text-amber">◆ Caution.</b> {caution}
        </span>
      )}
    </li>
  );
}

const NOT_DECIDED = 'not decided';

/** It is decided where it is read: then it is in the record, and on the paper. */
function Decide({
  host,
  text,
  field,
}: {
  host: HostSheet['host'];
  text: string;
  field: DecidedBy;
}) {
  const at = editing('host.edit', host)(field);
  if (field === 'controllerMode')
    return (
      <OneOf
        at={at}
        name={text}
        value={host.controllerMode}
        choices={KINDS.host.fields.controllerMode!.choices!.map((choice) => ({
          value: choice,
          label: choice === 'unknown' ? NOT_DECIDED : choice,
        }))}
      />
    );
  return field === 'consolePort' ? (
    <Editable<number | null>
      at={at}
      name={text}
      value={null}
      show={(held) => (held === null ? NOT_DECIDED : String(held))}
      write={() => ''}
      parse={asWhole}
    />
  ) : (
    <Editable
      at={at}
      name={text}
      value=""
      show={(held) => held || NOT_DECIDED}
      write={String}
      parse={asText}
    />
  );
}

function Results({ sheet }: { sheet: HostSheet }) {
  const go = useNavigate();
  const { make, busy, problem } = useChange();
  const [states, setStates] = useState<TestStates>({});
  const [began, setBegan] = useState('');
  const [ended, setEnded] = useState(() => minuteHere(new Date()));
  const [differences, setDifferences] = useState('');
  const [override, setOverride] = useState('');
  const send = async () => {
    const input = {
      hostId: sheet.host.id,
      startedAt: began && localOf(began),
      endedAt: ended && localOf(ended),
      differences,
      tests: resultsOf(states),
    };
    if (await make('host.built', input, { seen: sheet.host, override }))
      void go(`/hosts/${sheet.host.id}`);
  };
  return (
    <section aria-label="Results of the build" className="no-print mt-6 border-t border-ink pt-3">
      <h2 className="font-bold">When it is built: what it gave</h2>
      <div className="my-2 grid max-w-[520px] grid-cols-2 gap-3">
        <Field label="Began" error={problem?.field === 'startedAt' ? problem.sentence : undefined}>
          <MinuteInput value={began} onValue={setBegan} />
        </Field>
        <Field label="Ended" error={problem?.field === 'endedAt' ? problem.sentence : undefined}>
          <MinuteInput value={ended} onValue={setEnded} />
        </Field>
        <Field label="What was different from the sheet" wide>
          <textarea
            className="h-16"
            value={differences}
            onChange={(event) => setDifferences(event.target.value)}
          />
        </Field>
      </div>
      <TestList tests={sheet.tests} states={states} set={setStates} />
      <ProblemNote problem={problem} />
      {problem?.overridable && (
        <Field label="Reason to put it into service all the same">
          <input value={override} onChange={(event) => setOverride(event.target.value)} />
        </Field>
      )}
      <p className="mt-2">
        <button type="button" className="press" disabled={busy} onClick={() => void send()}>
          Put {sheet.host.name} into service
        </button>
      </p>
    </section>
  );
}
