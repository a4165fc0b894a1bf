/** What both forms of a move between hardware and guests share: planning it, what stands beside it. */
import type { PhysicalRoute } from '@insel/contract';
import { METHODS, MOVE_METHODS, type Input } from '@insel/core';
import { useNavigate } from 'react-router';
import { LinkField } from '../../components/link-field.js';
import { useChangeForm, type ChangeFormOptions } from '../../components/change-form.js';
import type { KeptForm } from '../../components/kept-form.js';
import { useRead } from '../../client/read.js';
import { Checks, EstimateLines } from './checks.js';
import { MethodField, WindowFields, type MoveFields } from './move-fields.js';

const methodsOfComputers = (side: 'source' | 'target') =>
  MOVE_METHODS.filter((method) => ['both', side].includes(METHODS[method].ofComputers ?? ''));
export const ofComputer = { kind: 'computer' as const };

type Physical = 'migration.plan-from-physical' | 'migration.plan-to-physical';

interface MoveDraft extends MoveFields {
  keepsBoth: boolean;
  reason: string;
  override: string;
}

/** Planning it: what is typed is checked, previewed and sent. */
export function usePlan<T extends Physical, V extends MoveDraft>(
  kept: KeptForm<V>,
  { type, read, typedIn, complete }: Planning<T, V>,
) {
  const go = useNavigate();
  const form = useChangeForm(kept, {
    type,
    read,
    typedIn,
    previews: () => complete,
    sent: ({ subjects }) => void go(`/migrations/${subjects[0]!.id}`),
  });
  const [input] = read(kept.values);
  const question = complete ? { type, input: input as Input<T> } : null;
  return { ...form, route: useRead('physicalRoute', question, { keep: true }).data };
}

interface Planning<T extends Physical, V extends MoveDraft> extends Pick<
  ChangeFormOptions<T, V>,
  'type' | 'read' | 'typedIn'
> {
  /** All is chosen that checks and estimate need. */
  complete: boolean;
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

/** How it travels, when, and whether both stay. */
export const MoveTail = <V extends MoveDraft>({
  form: { values, set, errors, ticked },
  side,
}: {
  form: KeptForm<V>;
  side: 'source' | 'target';
}) => {
  const alter = set as (change: Partial<MoveFields>) => void;
  return (
    <>
      <MethodField of={values} set={alter} error={errors} methods={methodsOfComputers(side)} />
      <LinkField
        value={values.linkBitsPerSecond}
        onChange={(rate) => alter({ linkBitsPerSecond: rate })}
      />
      <WindowFields of={values} set={alter} error={errors} />
      <label className="col-span-full flex min-h-6 items-center gap-2">
        <input type="checkbox" {...ticked('keepsBoth')} />
        It is a copy: both stay, and the new one gets an identity of its own
      </label>
    </>
  );
};
