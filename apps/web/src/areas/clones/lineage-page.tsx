/**
 * Lines drawn: versions of a template along time, and below each the clones that came from it. Where many hang from one
 * version they are folded by group. Origins that are no template stand below with their clones.
 */
import type { HangingClone, Lineage, TemplateView, VersionView } from '@insel/contract';
import { counted, formatBinary } from '@insel/core';
import { Link } from 'react-router';
import { useRead } from '../../client/read.js';

/** Up to here the clones of a version are named one by one. */
const NAMED = 12;
const WIDE = 1000;
const HIGH = 64;

export function LineagePage() {
  const templates = useRead('templates').data;
  const lines = useRead('clones').data;
  const versions = new Set(templates?.flatMap((one) => one.versions.map(({ guest }) => guest.id)));
  const others = lines?.filter(({ origin }) => !versions.has(origin.id)) ?? [];
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Lineage</h1>
      <p className="mb-2 text-[13px] text-faint">
        ◆ runs with something of its origin · ◌ planned · ↑ a newer version is sealed
      </p>
      {templates?.length === 0 && others.length === 0 && (
        <p className="text-faint">
          Templates with their versions, and what was cloned from each, are drawn here.{' '}
          <Link className="act" to="/clones/templates">
            Make a template
          </Link>
        </p>
      )}
      {templates?.map((template) => (
        <TemplateLine key={template.id} template={template} />
      ))}
      {others.map((line) => (
        <OriginLine key={line.origin.id} line={line} />
      ))}
    </div>
  );
}

const timeOf = ({ sealedAt, begunAt }: VersionView) => Date.parse(sealedAt ?? begunAt);

function TemplateLine({ template }: { template: TemplateView }) {
  const versions = [...template.versions].sort((a, b) => a.number - b.number);
  const times = versions.map(timeOf);
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const share = (i: number) =>
    first === last
      ? (i + 0.5) / versions.length
      : 0.04 + (0.92 * (times[i]! - first)) / (last - first);
  const column = (i: number) => (i + 0.5) / versions.length;
  return (
    <section aria-label={`Line of ${template.name}`} className="mb-6 border-t border-rule pt-2">
      <h2 className="font-bold">
        <Link to={`/clones/templates?open=${template.id}`}>{template.name}</Link>
      </h2>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        className="block h-16 w-full"
        aria-hidden
      >
        <line
          x1={0}
          x2={WIDE}
          y1={12}
          y2={12}
          className="stroke-ink"
          vectorEffect="non-scaling-stroke"
        />
        {versions.map((version, i) => (
          <path
            key={version.id}
            d={`M${share(i) * WIDE},12 C${share(i) * WIDE},44 ${column(i) * WIDE},28 ${column(i) * WIDE},${HIGH}`}
            className={`fill-none ${version.state === 'being prepared' ? 'stroke-pencil' : 'stroke-ink'}`}
            strokeDasharray={version.state === 'being prepared' ? '4 3' : undefined}
            strokeWidth={version.id === template.currentId ? 2.5 : 1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <ol
        className="grid gap-x-4"
        style={{ gridTemplateColumns: `repeat(${versions.length}, minmax(0, 1fr))` }}
      >
        {versions.map((version) => (
          <li key={version.id} className="text-center text-[13px]">
            <VersionHead version={version} current={version.id === template.currentId} />
            <Hanging clones={version.clones} />
          </li>
        ))}
      </ol>
    </section>
  );
}

function VersionHead({ version, current }: { version: VersionView; current: boolean }) {
  const { number, state, sealedAt, begunAt, dependents, savedBytes } = version;
  return (
    <>
      <p>
        <b className={state === 'being prepared' ? 'text-pencil' : ''}>v{number}</b>{' '}
        <span className="mono text-faint">{(sealedAt ?? begunAt).slice(0, 10)}</span>
      </p>
      <p className="text-xs text-faint">
        {current ? 'current' : state}
        {version.changed && `: ${version.changed}`}
      </p>
      {dependents > 0 && (
        <p className="text-xs">
          base of {dependents}, saves {formatBinary(savedBytes, 'down')}
        </p>
      )}
    </>
  );
}

function Hanging({ clones }: { clones: readonly HangingClone[] }) {
  if (clones.length === 0) return <p className="mt-1 text-xs text-faint">no clones</p>;
  if (clones.length <= NAMED)
    return (
      <ul className="mt-1 inline-block text-left">
        {clones.map((clone) => (
          <CloneLine key={clone.id} clone={clone} />
        ))}
      </ul>
    );
  const groups = new Map<string, HangingClone[]>();
  for (const clone of clones) {
    const key = clone.group || clone.name.replace(/[-_.]?[0-9a-z]$|[-_.]?\d+$/i, '') || clone.name;
    groups.set(key, [...(groups.get(key) ?? []), clone]);
  }
  return (
    <div className="mt-1 inline-block text-left">
      {[...groups].map(([name, members]) => {
        const count = (which: (clone: HangingClone) => boolean) => members.filter(which).length;
        const open = count((clone) => clone.open > 0 && clone.state === 'in service');
        const planned = count(({ state }) => state === 'planned');
        const behind = count((clone) => clone.behind > 0);
        return (
          <details key={name}>
            <summary className="min-h-6 cursor-pointer">
              {name} <span className="text-faint">× {members.length}</span>
              {open > 0 && <span className="text-amber"> ◆ {open}</span>}
              {planned > 0 && <span className="text-pencil"> ◌ {planned}</span>}
              {behind > 0 && <span className="text-faint"> ↑ {behind}</span>}
            </summary>
            <ul className="pl-4">
              {members.map((clone) => (
                <CloneLine key={clone.id} clone={clone} />
              ))}
            </ul>
          </details>
        );
      })}
    </div>
  );
}

function CloneLine({ clone }: { clone: HangingClone }) {
  const { name, id, state, open, behind, copy } = clone;
  return (
    <li
      className={`leading-6 ${copy === 'dependent' ? 'border-l-2 border-dotted border-ink pl-2' : 'border-l border-ink pl-2'}`}
    >
      <Link
        to={`/guests/${id}`}
        className={`underline decoration-rule ${state === 'planned' ? 'text-pencil' : ''}`}
        title={`${copy} copy, ${state}, on ${clone.host}`}
      >
        {name}
      </Link>{' '}
      <span
        aria-hidden
        className={open > 0 && state === 'in service' ? 'text-amber' : 'text-faint'}
      >
        {open > 0 && state === 'in service' ? '◆' : state === 'planned' ? '◌' : ''}
        {behind > 0 ? '↑' : ''}
      </span>
      <span className="sr-only">
        {open > 0 ? `, ${counted(open, 'item')} of identity open` : ''}
        {behind > 0 ? `, ${counted(behind, 'version')} behind` : ''}
      </span>
    </li>
  );
}

function OriginLine({ line: { origin, clones } }: { line: Lineage }) {
  return (
    <section aria-label={`Line of ${origin.name}`} className="mb-4 border-t border-rule pt-2">
      <h2 className="font-bold">
        <Link to={`/guests/${origin.id}`}>{origin.name}</Link>{' '}
        <span className="font-normal text-faint">{origin.state}, no template</span>
      </h2>
      <Hanging
        clones={clones.map((clone) => ({
          ...clone.guest,
          revision: clone.revision,
          state: clone.state,
          host: clone.host.name,
          group: '',
          copy: clone.copy as HangingClone['copy'],
          madeAt: clone.madeAt,
          open: clone.open.length,
          behind: 0,
          grownBytes: null,
        }))}
      />
    </section>
  );
}
