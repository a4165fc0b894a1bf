/** What both forms of a move between hardware and guests share: planning it, what stands beside it. */
import { checkInput, type PhysicalRoute } from '@insel/contract';
import { METHODS, MOVE_METHODS, type Input } from '@insel/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, type Errors } from '../../components/field.js';
import { useChange } from '../../frame/change.js';
import { useRead } from '../../frame/read.js';
import { Checks, EstimateLines } from './checks.js';
import { LinkField, MethodField, WindowFields, type MoveFields } from './move-fields.js';

const methodsOfComputers = (side: 'source' | 'target') =>
  MOVE_METHODS.filter((method) => ['both', side].includes(METHODS[method].ofComputers ?? ''));
export const ofComputer = { kind: 'computer' as const };

type Physical = 'migration.plan-from-physical' | 'migration.plan-to-physical';

/** Planning it: what is typed is checked, previewed and sent. */
export function usePlan<T extends Physical>(type: T, input: Input<T>, complete: boolean) {
  const go = useNavigate();
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const result = checkInput(type, input);
  const preview = usePreview(type, complete && result.ok ? result.value : null);
  const route = useRead('physicalRoute', complete ? { type, input } : null, { keep: true }).data;
  const send = async (said: { reason: string; override: string }, forget: () => void) => {
    setErrors(
      result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence])),
    );
    if (!result.ok) return;
    const written = await make(type, result.value, said);
    if (!written) return;
    forget();
    void go(`/migrations/${written.subjects[0]!.id}`);
  };
  return { busy, problem, preview, error: { ...errorsOf(problem), ...errors }, route, send };
}

export function Beside({ route, hint }: { route: PhysicalRoute | undefined; hint: string }) {
  if (!route) return <p className="text-faint">{hint}</p>;
  if (route.fault)
    return (
      <p className="text-faint">
        {route.fault.sentence} {route.fault.remedy}
      </p>
    );
  return (
    <>
      {route.estimate && <EstimateLines estimate={route.estimate} />}
      <h2 className="mt-2 font-bold">Checks before</h2>
      <Checks checks={route.checks} />
    </>
  );
}

interface MoveDraft extends MoveFields {
  keepsBoth: boolean;
  reason: string;
  override: string;
}
interface Tail {
  draft: MoveDraft;
  set: (change: Partial<MoveDraft>) => void;
  plan: ReturnType<typeof usePlan>;
}

/** How it travels, when, and whether both stay. */
export const MoveTail = ({
  draft,
  set,
  plan: { error },
  side,
}: Tail & { side: 'source' | 'target' }) => (
  <>
    <MethodField of={draft} set={set} error={error} methods={methodsOfComputers(side)} />
    <LinkField of={draft} set={set} />
    <WindowFields of={draft} set={set} error={error} />
    <label className="col-span-full flex min-h-6 items-center gap-2">
      <input
        type="checkbox"
        checked={draft.keepsBoth}
        onChange={(event) => set({ keepsBoth: event.target.checked })}
      />
      It is a copy: both stay, and the new one gets an identity of its own
    </label>
  </>
);

export const PlanIt = ({
  draft,
  set,
  plan: { problem, preview, busy, send },
  forget,
}: Tail & { forget: () => void }) => (
  <Sending
    label="Plan the migration"
    busy={busy}
    problem={problem}
    preview={preview}
    said={draft}
    set={set}
    onSend={() => send(draft, forget)}
  />
);
