/** First-start files of a guest: shown before they are taken, with what they set and what they leave. */
import { useState } from 'react';
import type { GuestSheet } from '@insel/contract';
import { ProblemNote } from '../../components/problem.js';
import { FirstStartFile } from '../../components/first-start-file.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { hrefOf, useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';

/** Name of the script, as it is taken. */
const SCRIPT = 'own-identity.sh';

export function FirstStartPart({ sheet: { guest, identity } }: { sheet: GuestSheet }) {
  const [open, setOpen] = useState(false);
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const found = useRead('firstStart', open ? { id: guest.id } : null).data;
  const ticked = identity?.items.filter(
    ({ item, doneAt }) => doneAt === null && found?.sets.includes(item),
  );
  return (
    <Part title="First start">
      <p>
        Files that a generalised system of the family reads at its first start: its name, addresses
        and new host keys, out of the record.{' '}
        <button type="button" className="act" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Close them' : 'Show the files'}
        </button>
      </p>
      {found && (
        <>
          <p className="mb-1">
            <a className="act" href={hrefOf('seedImage', { id: guest.id })} download="seed.iso">
              Take them as a disc image
            </a>{' '}
            <span className="text-[13px] text-faint">
              to be put into its drive; eject it after the first start
            </span>
          </p>
          <div className="grid grid-cols-1 gap-3 xl:grid-cols-2">
            {[...found.files, { name: SCRIPT, text: found.script, differs: [] }].map(
              ({ name, text, differs }) => (
                <section key={name} aria-label={name}>
                  <h3 className="flex items-baseline gap-4 text-[13px] font-bold">
                    <span className="mono">{name}</span>
                    <a
                      className="act font-normal"
                      download={name}
                      href={`data:text/yaml;charset=utf-8,${encodeURIComponent(text)}`}
                    >
                      Take {name}
                    </a>
                  </h3>
                  {name === SCRIPT && (
                    <p className="text-[13px] text-faint">
                      Instead of the files, for a copy that was not generalised: at its console,
                      before it touches a network.
                    </p>
                  )}
                  <FirstStartFile name={name} text={text} differs={differs} />
                </section>
              ),
            )}
          </div>
          {found.sibling && (
            <p className="mt-1 text-[13px] text-faint">
              <mark className="bg-sand px-1 text-ink">Washed</mark> lines differ from those of{' '}
              {found.sibling.name}, a clone of the same origin.
            </p>
          )}
          <h3 className="mt-2 text-[13px] font-bold">Left to do by hand</h3>
          <ul className="list-disc pl-5">
            {found.left.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {mayPlan && ticked && ticked.length > 0 && (
            <p className="mt-1">
              <button
                type="button"
                className="act"
                onClick={() =>
                  void make('clone.tick', {
                    itemIds: ticked.map(({ id }) => id),
                    done: true,
                    remark: 'by the first-start files',
                  })
                }
              >
                It has started with them: tick {ticked.map(({ item }) => item).join(', ')}
              </button>
            </p>
          )}
          <ProblemNote problem={problem} />
        </>
      )}
    </Part>
  );
}
