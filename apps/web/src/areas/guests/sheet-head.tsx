/** The head of a guest's sheet: its state, and what one does first. */
import type { GuestSheet } from '@insel/contract';
import { Link } from 'react-router';
import { Editable, asText } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { type SheetAction, SheetActions } from '../../components/sheet-actions.js';
import { useChange, editing } from '../../client/change.js';
import { useMayPlan } from '../../client/session.js';

/** What one does first with a guest in a state. */
const FIRST: Readonly<Partial<Record<GuestSheet['guest']['state'], string>>> = {
  planned: 'Build sheet',
  building: 'Build sheet',
  'in service': 'Migrate',
  stopped: 'Set to in service',
};
const buildOf = (id: string): SheetAction => ({ label: 'Build sheet', to: `/guests/${id}/build` });

/** Name, state, place, and what can be done with it. */
export function Head({ sheet: { guest, host, states } }: { sheet: GuestSheet }) {
  const mayPlan = useMayPlan();
  const { make, anyway, problem } = useChange();
  const actions: SheetAction[] = mayPlan
    ? [
        { label: 'Migrate', to: `/migrations/new?guest=${guest.id}` },
        { label: 'Make clones', to: `/clones/new?of=${guest.id}` },
        ...states.map(({ state, effect }) =>
          state === 'retired'
            ? { label: 'Retire', to: `/guests/${guest.id}/end`, effect }
            : {
                label: `Set to ${state}`,
                act: () => void make('guest.set-state', { id: guest.id, state }, { seen: guest }),
                effect,
              },
        ),
      ]
    : [];
  const first =
    FIRST[guest.state] === 'Build sheet'
      ? buildOf(guest.id)
      : actions.find(({ label }) => label === FIRST[guest.state]);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Editable
            at={editing('guest.edit', guest)('name')}
            name="Name"
            value={guest.name}
            show={String}
            parse={asText}
          />
        </h1>
        <span
          className={
            guest.state === 'planned' ? 'border-b border-dashed border-pencil text-pencil' : ''
          }
        >
          {guest.state}
        </span>
        <span>
          on{' '}
          <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>
            {host.name}
          </Link>
        </span>
        <SheetActions
          first={first}
          rest={[
            ...actions.filter((found) => found.label !== first?.label),
            { label: 'Measured use', to: `/guests/${guest.id}/use` },
            { label: 'Whom does it reach', to: `/networks/reach?from=${guest.id}` },
            { label: 'Entries in the log', to: `/log?subject=${guest.id}` },
          ]}
        />
      </div>
      <ProblemNote problem={problem} anyway={anyway} />
    </>
  );
}

/** How far its build is, and whether it was checked. */
export function BuildLine({ sheet: { guest, build } }: { sheet: GuestSheet }) {
  const building = guest.state === 'planned' || guest.state === 'building';
  const checked = build.failed.length ? (
    <b className="text-amber">
      {build.failed.length === 1
        ? 'a first check failed'
        : `${build.failed.length} first checks failed`}
    </b>
  ) : build.passed > 0 ? (
    `${build.passed} first checks passed, the last on ${build.last!.slice(0, 10)}`
  ) : building ? (
    'not checked yet'
  ) : (
    'no first check recorded'
  );
  return (
    <p className="mb-1 flex flex-wrap gap-x-4 text-[13px]">
      {!building && (
        <Link className="act" to={`/guests/${guest.id}/build`}>
          Build sheet
        </Link>
      )}
      {(building || build.done > 0) && (
        <span className="leading-6">
          {build.done} of {build.total} steps ticked
        </span>
      )}
      <span className="leading-6">{checked}</span>
    </p>
  );
}
