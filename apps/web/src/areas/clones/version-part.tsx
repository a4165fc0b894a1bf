/** One version of a template: what it holds, what was seen to, sealing and retiring, the clones that came from it. */
import type { TemplateView, VersionView } from '@insel/contract';
import { counted, formatBinary } from '@insel/core';
import { Link } from 'react-router';
import { Editable, asText, asWhole } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf } from '../../components/small-edits.js';
import { TickList } from '../../components/tick-list.js';
import { editing, useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { Age } from './version-age.js';
import { VersionClones } from './version-clones.js';

export function VersionPart({
  version,
  template,
}: {
  version: VersionView;
  template: TemplateView;
}) {
  const media = useRead('media').data ?? [];
  const at = editing('template.edit-version', version);
  const from = template.versions.find(({ id }) => id === version.fromId);
  return (
    <Part title={`v${version.number}`}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className={version.state === 'being prepared' ? 'text-pencil' : 'font-bold'}>
          {version.state}
        </span>
        {version.state === 'sealed' && <Age version={version} />}
        {version.sealedAt && (
          <span className="text-faint">
            {version.sealedAt.slice(0, 10)}, {version.sealedBy}
          </span>
        )}
        {version.state === 'sealed' && (
          <span className={version.generalised ? '' : 'font-bold text-amber'}>
            {version.generalised ? 'generalised' : '◆ not generalised'}
          </span>
        )}
        <span>
          held by{' '}
          <Link className="underline decoration-rule" to={`/guests/${version.guest.id}`}>
            {version.guest.name}
          </Link>
          , {version.guest.state}, on {version.guest.host}
        </span>
      </p>
      <Facts>
        <Fact name="What changed">
          <Editable
            at={at('changed')}
            name="What changed"
            value={version.changed}
            show={String}
            parse={asText}
          />
        </Fact>
        <Fact name="Installed">
          <Editable
            at={at('installed')}
            name="Installed"
            value={version.installed}
            show={String}
            parse={asText}
          />
        </Fact>
        <Fact name="Came from">
          {from ? (
            `a copy of v${from.number}`
          ) : (
            <OneOf
              at={at('mediumId')}
              name="Medium it came from"
              value={version.mediumId}
              choices={[
                { value: '', label: 'not said' },
                ...media.map(({ id, name }) => ({ value: id, label: name })),
              ]}
            />
          )}
        </Fact>
        <Fact name="Size">
          <span className="mono">{formatBinary(version.allocatedBytes, 'up')}</span> allocated of{' '}
          <span className="mono">{formatBinary(version.bytes)}</span>
        </Fact>
        <Fact name="Activations reset">
          <Editable
            at={at('resets')}
            name="Activations reset"
            value={version.resets}
            show={String}
            parse={asWhole}
            mono
          />
        </Fact>
        {version.dependents > 0 && (
          <Fact name="Shared">
            by {counted(version.dependents, 'dependent clone')}, which saves{' '}
            <span className="mono">{formatBinary(version.savedBytes, 'down')}</span> now; as they
            grow, 5 to 10 % of the base a week
          </Fact>
        )}
      </Facts>
      {version.state === 'being prepared' && <SealList version={version} />}
      {version.state === 'sealed' && (
        <Seen items={version.items.filter(({ doneAt }) => doneAt === null)} />
      )}
      <VersionClones version={version} template={template} />
      <Retire version={version} />
    </Part>
  );
}

/** What a sealed version went without. */
function Seen({ items }: { items: VersionView['items'] }) {
  if (items.length === 0) return null;
  return (
    <p className="text-[13px]">
      <span className="font-bold text-amber">◆ Sealed without:</span>{' '}
      {items.map(({ item }) => item).join(', ')}
    </p>
  );
}

function SealList({ version }: { version: VersionView }) {
  const mayPlan = useMayPlan();
  const { make, anyway, busy, problem } = useChange();
  return (
    <div className="mt-2">
      <h3 className="text-[13px] font-bold">Before it is sealed</h3>
      <TickList
        items={version.items}
        tick={(some, done) =>
          void make('template.tick', { itemIds: some.map(({ id }) => id), done })
        }
      />
      {mayPlan && (
        <button
          type="button"
          className="press ml-4"
          disabled={busy}
          onClick={() => void make('template.seal', { id: version.id }, { seen: version })}
        >
          Seal v{version.number}
        </button>
      )}
      <ProblemNote problem={problem} anyway={anyway} />
    </div>
  );
}

function Retire({ version }: { version: VersionView }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (!mayPlan || version.state === 'retired') return null;
  return (
    <>
      <button
        type="button"
        className="act mt-1 text-[13px]"
        onClick={() => void make('template.retire-version', { id: version.id }, { seen: version })}
      >
        {version.state === 'sealed' ? `Retire v${version.number}` : `Give v${version.number} up`}
      </button>
      <ProblemNote problem={problem} />
    </>
  );
}
