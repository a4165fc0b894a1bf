/** Devices of a guest that is sized, and the steps to build it, in brief. */
import type { SizeAnswer } from '@insel/contract';
import { ADAPTER_MODELS, DISK_BUSES, type GuestBuild } from '@insel/core';
import { devicesOf, type SizeDraft, type Set } from './size-form.js';

const OTHERS: {
  device: SizeAnswer['devices'][number]['device'];
  field: 'bus' | 'model' | 'firmware' | 'processor';
  choices: readonly string[];
}[] = [
  { device: 'disk bus', field: 'bus', choices: DISK_BUSES.filter((bus) => bus !== 'unknown') },
  {
    device: 'adapter model',
    field: 'model',
    choices: ADAPTER_MODELS.filter((model) => model !== 'unknown'),
  },
  { device: 'firmware', field: 'firmware', choices: ['UEFI', 'legacy'] },
  { device: 'processor', field: 'processor', choices: ['host', 'v1', 'v2', 'v3', 'v4'] },
];

const WORD: Record<string, string> = {
  host: 'the host’s own',
  v1: 'level v1',
  v2: 'level v2',
  v3: 'level v3',
  v4: 'level v4',
};

const word = (choice: string): string => WORD[choice] ?? choice;

export function Devices({
  draft,
  set,
  answer,
}: {
  draft: SizeDraft;
  set: Set;
  answer: SizeAnswer;
}) {
  const taken = devicesOf(draft, answer);
  return (
    <>
      {answer.devices.map((advice) => {
        const other = OTHERS.find((found) => found.device === advice.device);
        return (
          <div
            key={advice.device}
            className="grid grid-cols-[100px_180px_1fr] items-baseline gap-3 border-t border-rule py-1 text-[13px]"
          >
            <span className="text-faint">{advice.device}</span>
            {other ? (
              <select
                aria-label={`Choice of ${advice.device}`}
                value={draft[other.field]}
                onChange={(event) => set({ [other.field]: event.target.value })}
              >
                <option value="">{word(advice.choice)} (advised)</option>
                {other.choices
                  .filter((choice) => choice !== advice.choice)
                  .map((choice) => (
                    <option key={choice} value={choice}>
                      {word(choice)}
                    </option>
                  ))}
              </select>
            ) : (
              <b>{word(advice.choice)}</b>
            )}
            <span>
              {advice.reason}{' '}
              <span className="text-faint">
                {advice.consequence} {advice.source.text}.
              </span>
            </span>
          </div>
        );
      })}
      {taken.firmware === 'UEFI' && (
        <label className="mt-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={draft.variables}
            onChange={(event) => set({ variables: event.target.checked })}
          />{' '}
          A small volume of its own for the UEFI variables
        </label>
      )}
    </>
  );
}

/** What follows the plan, in brief: the sheet itself comes once it is planned. */
export function StepsBrief({ build }: { build: GuestBuild }) {
  const total = build.sections.reduce((sum, section) => sum + section.steps.length, 0);
  return (
    <section
      aria-label="Build steps"
      className="mt-4 border-t border-dashed border-pencil pt-2 text-[13px]"
    >
      <h3 className="font-bold text-pencil">
        Then it is built in {total} steps,{' '}
        {build.way === 'copy'
          ? 'as a copy'
          : build.way === 'no medium'
            ? 'with no medium chosen yet'
            : `by ${build.way}`}
      </h3>
      {build.sections.map((section) => (
        <details key={section.title}>
          <summary className="min-h-6 cursor-pointer">
            {section.title}, {section.steps.length}
          </summary>
          <ol className="list-decimal pl-5">
            {section.steps.map((step) => (
              <li key={step.key}>
                {step.text}
                {step.value && <span className="mono"> {step.value}</span>}
              </li>
            ))}
          </ol>
        </details>
      ))}
      {build.undecided.length > 0 && (
        <p className="text-amber">
          <b>◆ Not decided yet:</b> {build.undecided.join(', ')}.
        </p>
      )}
    </section>
  );
}
