/** Templates beside the open one: its versions, what was seen to before each was sealed, the clones that came from it. */
import type { GuestListRow, TemplateView, VersionView } from '@insel/contract';
import { counted, formatBinary } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { Area } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Editable, asText } from '../../components/editable.js';
import { Field } from '../../components/field.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { editing, useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { Age } from './version-age.js';
import { VersionPart } from './version-part.js';
import { NamedSelect } from '../../components/named-select.js';

export function TemplatesPage() {
  const templates = useRead('templates');
  const [search, set] = useUrlState();
  const open =
    templates.data?.find(({ id }) => id === search.get('open')) ?? templates.data?.[0] ?? null;
  return (
    <Area
      width={420}
      list={
        <div className="h-full overflow-y-auto px-4 py-3">
          <h1>Templates</h1>
          {templates.error && <p className="text-signal">{templates.error.message}</p>}
          {templates.data?.length === 0 && (
            <p className="text-faint">
              A template is a guest prepared once and copied often. Choose one below that is
              installed as every copy should be.
            </p>
          )}
          <TemplateList
            templates={templates.data ?? []}
            openId={open?.id ?? ''}
            onOpen={(id) => set({ open: id })}
          />
          <BeginTemplate templates={templates.data ?? []} onBegun={(id) => set({ open: id })} />
        </div>
      }
      sheet={open && <TemplateSheet key={open.id} template={open} />}
    />
  );
}

const currentOf = ({ versions, currentId }: TemplateView): VersionView | undefined =>
  versions.find(({ id }) => id === currentId);

function TemplateList({
  templates,
  openId,
  onOpen,
}: {
  templates: readonly TemplateView[];
  openId: string;
  onOpen: (id: string) => void;
}) {
  if (templates.length === 0) return null;
  return (
    <table className="mt-2 w-full text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink text-xs">
          <th>Template</th>
          <th>Current</th>
          <th className="text-right">sealed</th>
          <th className="text-right">clones</th>
          <th className="text-right">size</th>
        </tr>
      </thead>
      <tbody>
        {templates.map((template) => {
          const current = currentOf(template);
          const clones = template.versions.reduce((sum, one) => sum + one.clones.length, 0);
          return (
            <tr
              key={template.id}
              className={`h-8 border-b border-rule ${template.id === openId ? 'bg-water' : ''}`}
            >
              <td>
                <button
                  type="button"
                  aria-current={template.id === openId || undefined}
                  className="min-h-6 cursor-pointer text-left font-bold"
                  onClick={() => onOpen(template.id)}
                >
                  {template.name}
                </button>
              </td>
              <td>{current ? `v${current.number}` : <span className="text-faint">none</span>}</td>
              <td className="text-right">{current ? <Age version={current} /> : '–'}</td>
              <td className="mono text-right">{clones}</td>
              <td className="mono text-right">
                {current ? formatBinary(current.allocatedBytes, 'up') : '–'}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function BeginTemplate({
  templates,
  onBegun,
}: {
  templates: readonly TemplateView[];
  onBegun: (id: string) => void;
}) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const [guest, setGuest] = useState<GuestListRow | null>(null);
  const [templateId, setTemplateId] = useState('');
  const [name, setName] = useState('');
  if (!mayPlan) return null;
  const begin = async () => {
    if (!guest) return;
    const line = templateId ? { templateId } : { name: name.trim() || guest.name };
    const written = await make('template.begin', { guestId: guest.id, ...line }, { seen: guest });
    const id = written?.subjects.find(({ kind }) => kind === 'template')?.id;
    if (!id) return;
    setGuest(null);
    setName('');
    onBegun(id);
  };
  return (
    <form
      className="mt-5 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <h2 className="text-[13px] font-bold">Make a template of a guest</h2>
      <Field label="Guest">
        <Choose<GuestListRow>
          list="guests"
          value={guest?.id ?? ''}
          onChange={(_, row) => setGuest(row)}
          detail={(row) => row.state}
        />
      </Field>
      <Field label="As a version of">
        <NamedSelect
          value={templateId}
          onChange={(event) => setTemplateId(event.target.value)}
          rows={templates}
          none="a template of its own"
        />
      </Field>
      {templateId === '' && (
        <Field label="Name of the template">
          <input
            value={name || guest?.name || ''}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
      )}
      <div>
        <button type="submit" className="act" disabled={busy || !guest}>
          Begin its version
        </button>
      </div>
      <ProblemNote problem={problem} />
    </form>
  );
}

function TemplateSheet({ template }: { template: TemplateView }) {
  const mayPlan = useMayPlan();
  const { make, anyway, busy, problem } = useChange();
  const at = editing('template.edit', template);
  const current = currentOf(template);
  const preparing = template.versions.find(({ state }) => state === 'being prepared');
  const making = current ? `/clones/new?of=${current.guest.id}` : '';
  return (
    <article aria-label={`Template ${template.name}`}>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <Editable
            at={at('name')}
            name="Name"
            value={template.name}
            show={String}
            parse={asText}
          />
        </h1>
        <span className="text-faint">{counted(template.versions.length, 'version')}</span>
        {mayPlan && (
          <span className="ml-auto flex gap-4">
            {making && (
              <Link className="act" to={making} data-key="c">
                Make clones of v{current!.number} <span className="key">c</span>
              </Link>
            )}
            {current && !preparing && (
              <button
                type="button"
                className="act"
                disabled={busy}
                onClick={() =>
                  void make('template.new-version', { templateId: template.id }, { seen: template })
                }
              >
                Begin a new version
              </button>
            )}
          </span>
        )}
      </div>
      <p>
        <Editable
          at={at('purpose')}
          name="Purpose"
          value={template.purpose}
          show={String}
          parse={asText}
        />
      </p>
      <ProblemNote problem={problem} anyway={anyway} />
      <SheetFindings findings={template.findings} />
      {template.versions.map((version) => (
        <VersionPart key={version.id} version={version} template={template} />
      ))}
    </article>
  );
}
