/** New guests in lots: what a lot is, read from what is typed, and the cards that it is typed into. */
import { FAMILIES, formatBinary, formatMemory, PROCESSOR_MODES } from '@insel/core';
import { Field, type Errors } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import type { LotDraft } from './lot-draft.js';
import { NamedSelect } from '../../components/named-select.js';

export function LotCard({
  draft,
  number,
  errors,
  hostIds,
  set,
  drop,
}: {
  draft: LotDraft;
  number: number;
  /** Hosts that could take it. */
  hostIds: ReadonlySet<string>;
  errors: Errors;
  set: (more: Partial<LotDraft>) => void;
  /** Null: it is the only one. */
  drop: (() => void) | null;
}) {
  const profiles = useRead('profiles').data ?? [];
  const groups = useRead('guestGroups').data ?? [];
  const pools = useRead('pools').data ?? [];
  const networks = useRead('networks', { sort: 'name', take: 200 }).data?.rows ?? [];
  const shared = pools.filter(
    ({ id, hosts }) =>
      id === draft.poolId || (hosts.length > 1 && hosts.some((host) => hostIds.has(host.id))),
  );
  const text = (field: 'pattern' | 'count' | 'vcpu' | 'memory' | 'size' | 'labels') => ({
    value: draft[field],
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
  const takeRole = (profileId: string) => {
    const role = profiles.find(({ id }) => id === profileId);
    set(
      role
        ? {
            profileId,
            family: role.family,
            vcpu: String(role.usualVcpu),
            memory: formatMemory(role.usualMemoryMiB, 'up'),
            size: role.usualBytes > 0 ? formatBinary(role.usualBytes, 'up') : '',
          }
        : { profileId },
    );
  };
  return (
    <fieldset className="grid grid-cols-4 items-start gap-x-2 gap-y-1 border border-rule px-2 py-1">
      <legend className="text-xs font-bold text-faint">
        Lot {number}{' '}
        {drop && (
          <button type="button" className="act" onClick={drop} aria-label={`Drop lot ${number}`}>
            Drop
          </button>
        )}
      </legend>
      <Half>
        <Field label="Names" error={errors.pattern}>
          <input {...text('pattern')} />
        </Field>
      </Half>
      <Field label="How many" error={errors.count}>
        <input inputMode="numeric" {...text('count')} />
      </Field>
      <Field label="vCPU" error={errors.vcpu}>
        <input inputMode="numeric" {...text('vcpu')} />
      </Field>
      <Half>
        <Field label="Role">
          <NamedSelect
            value={draft.profileId}
            onChange={(event) => takeRole(event.target.value)}
            rows={profiles}
            none="none"
          />
        </Field>
      </Half>
      <Field label="Memory" error={errors.memoryMiB}>
        <input {...text('memory')} />
      </Field>
      <Field label="Disk" error={errors.bytes}>
        <input {...text('size')} />
      </Field>
      <Half>
        <Field label="Pool">
          <NamedSelect
            value={draft.poolId}
            onChange={(event) => set({ poolId: event.target.value })}
            rows={shared}
            none="of its host alone"
          />
        </Field>
      </Half>
      <Half>
        <Field label="Network">
          <NamedSelect
            value={draft.networkId}
            onChange={(event) => set({ networkId: event.target.value })}
            rows={networks}
            none="none"
          />
        </Field>
      </Half>
      <Half>
        <Field label="Family">
          <select
            value={draft.family}
            onChange={(event) => set({ family: event.target.value as LotDraft['family'] })}
          >
            {FAMILIES.map((family) => (
              <option key={family}>{family}</option>
            ))}
          </select>
        </Field>
      </Half>
      <Half>
        <Field label="Group of guests">
          <NamedSelect
            value={draft.guestGroupId}
            onChange={(event) => set({ guestGroupId: event.target.value })}
            rows={groups}
            none="none"
          />
        </Field>
      </Half>
      <Half>
        <Field label="No two in one">
          <select
            value={draft.apart}
            onChange={(event) => set({ apart: event.target.value as LotDraft['apart'] })}
          >
            <option value="none">not asked</option>
            <option value="host">host</option>
            <option value="rack">rack</option>
            <option value="site">site</option>
          </select>
        </Field>
      </Half>
      <Half>
        <Field label="Processor it sees">
          <select
            value={draft.processorMode}
            onChange={(event) =>
              set({ processorMode: event.target.value as LotDraft['processorMode'] })
            }
          >
            {PROCESSOR_MODES.map((mode) => (
              <option key={mode} value={mode}>
                {mode === 'unknown'
                  ? 'not said'
                  : mode === 'host'
                    ? 'that of its host'
                    : `level x86-64-${mode}`}
              </option>
            ))}
          </select>
        </Field>
      </Half>
      <Half>
        <Field label="Labels">
          <input {...text('labels')} placeholder="words" />
        </Field>
      </Half>
      <label className="col-span-2 flex min-h-6 items-center gap-2 self-end">
        <input
          type="checkbox"
          checked={draft.thin}
          onChange={(event) => set({ thin: event.target.checked })}
        />
        Thin volumes
      </label>
    </fieldset>
  );
}

const Half = ({ children }: { children: React.ReactNode }) => (
  <div className="col-span-2">{children}</div>
);
