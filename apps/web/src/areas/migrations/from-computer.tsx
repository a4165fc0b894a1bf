/** A computer that becomes a guest: few fields, what the record knows beside them. */
import type { DeviceListRow, HostListRow } from '@insel/contract';
import { formatBinary, formatMemory, parseBytes, parseMemory, volumeBytesFor } from '@insel/core';
import { useSearchParams } from 'react-router';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Field } from '../../components/field.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Sending } from '../../components/sending.js';
import { useRead } from '../../client/read.js';
import { moveInput, NO_MOVE_FIELDS } from './move-fields.js';
import { MoveKinds } from './move-kinds.js';
import { Beside, MoveTail, ofComputer, usePlan } from './physical-form.js';

interface DiskDraft {
  pool: string;
  size: string;
  stays: boolean;
}
const NO_DISK: DiskDraft = { pool: '', size: '', stays: false };

const EMPTY_FROM = {
  ...NO_MOVE_FIELDS,
  deviceId: '',
  targetHostId: '',
  name: '',
  vcpu: '',
  memory: '',
  owner: '',
  disks: {} as Record<string, DiskDraft>,
  keepsBoth: false,
  reason: '',
  override: '',
};

function sizeOf(disk: DiskDraft | undefined, bytes: number): number {
  const typed = disk?.size.trim();
  const read = typed ? parseBytes(typed) : null;
  return read?.ok ? read.value : volumeBytesFor(bytes);
}

export function FromComputer() {
  const [search] = useSearchParams();
  const deviceInAddress = search.get('device') ?? '';
  const kept = useKeptForm(`physical:${deviceInAddress}`, () => EMPTY_FROM);
  const { values: draft, set, held } = kept;
  const deviceId = draft.deviceId || deviceInAddress;
  const device = useRead('device', deviceId ? { id: deviceId } : null).data?.device;
  const host = useRead('host', draft.targetHostId ? { id: draft.targetHostId } : null).data;
  const pools = host?.pools ?? [];
  const advised = device?.computer?.asGuest;
  const disks = device?.computer?.disks ?? [];
  const movingOf = (typed: typeof EMPTY_FROM) => disks.filter(({ id }) => !typed.disks[id]?.stays);
  const form = usePlan(kept, {
    type: 'migration.plan-from-physical',
    read: (typed) => {
      const memory = typed.memory.trim() ? parseMemory(typed.memory) : null;
      const input = {
        deviceId,
        targetHostId: typed.targetHostId,
        name: typed.name.trim() || (device?.name ?? ''),
        vcpu: typed.vcpu.trim() ? Number(typed.vcpu) : (advised?.vcpu.value ?? 1),
        memoryMiB: memory?.ok ? memory.value : (advised?.memory.value ?? 1),
        disks: movingOf(typed).map(({ id, bytes }) => ({
          computerDiskId: id,
          poolId: typed.disks[id]?.pool || (pools[0]?.id ?? ''),
          bytes: sizeOf(typed.disks[id], bytes),
          thin: true,
        })),
        keepsBoth: typed.keepsBoth,
        ...(typed.owner.trim() ? { owner: typed.owner.trim() } : {}),
        ...moveInput(typed),
      };
      return [input, { memoryMiB: memory?.ok === false ? memory.sentence : undefined }];
    },
    typedIn: { memoryMiB: 'memory' },
    complete: Boolean(device && host && movingOf(draft).length > 0 && pools.length > 0),
  });
  const { errors } = form;
  const setDisk = (id: string, change: Partial<DiskDraft>) =>
    set({ disks: { ...draft.disks, [id]: { ...(draft.disks[id] ?? NO_DISK), ...change } } });
  return (
    <Making
      title="Make a computer a guest"
      consequences={
        <Beside
          route={form.route}
          hint="Choose a computer whose disks are recorded, and a host: checks and the estimate appear here."
        />
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <MoveKinds now="from" />
          <div className="grid max-w-[760px] grid-cols-1 gap-3 sm:grid-cols-2">
            <Field label="Computer" error={errors.deviceId}>
              <Choose<DeviceListRow>
                list="devices"
                query={ofComputer}
                value={deviceId}
                onChange={(id) => set({ deviceId: id, disks: {} })}
                detail={(row) => `${row.addresses.join(', ')}, ${row.state}`}
              />
            </Field>
            <Field label="To host" error={errors.targetHostId}>
              <Choose<HostListRow>
                list="hosts"
                value={draft.targetHostId}
                onChange={(id) => set({ targetHostId: id, disks: {} })}
                detail={(row) => `${formatMemory(row.memoryLeftMiB, 'down')} left, ${row.state}`}
              />
            </Field>
            <Field label="Name of the guest" of={held('name')} hint="empty: as the computer">
              <input />
            </Field>
            <Field label="Who looks after it" of={held('owner')}>
              <input />
            </Field>
            <Field
              label="vCPU"
              of={held('vcpu')}
              hint={
                advised?.vcpu.value == null
                  ? 'its cores are not recorded'
                  : `empty: ${advised.vcpu.value}`
              }
            >
              <input className="mono" inputMode="numeric" />
            </Field>
            <Field
              label="Memory"
              of={held('memory')}
              hint={
                advised?.memory.value == null
                  ? 'its memory is not recorded'
                  : `empty: ${formatMemory(advised.memory.value)}`
              }
            >
              <input className="mono" />
            </Field>
            <fieldset className="col-span-full">
              <legend className="text-xs font-bold text-faint">Disks</legend>
              {disks.map(({ id, bay, bytes }) => {
                const { stays = false, pool = '', size = '' } = draft.disks[id] ?? {};
                return (
                  <div
                    key={id}
                    className="grid min-h-8 grid-cols-1 items-center gap-2 sm:grid-cols-[minmax(120px,1fr)_minmax(120px,1fr)_130px]"
                  >
                    <label className="flex min-h-6 items-center gap-2">
                      <input
                        type="checkbox"
                        checked={!stays}
                        onChange={(event) => setDisk(id, { stays: !event.target.checked })}
                      />
                      {bay} <span className="mono text-[13px]">{formatBinary(bytes, 'up')}</span>
                    </label>
                    <select
                      aria-label={`Pool of ${bay}`}
                      disabled={stays}
                      value={pool || pools[0]?.id}
                      onChange={(event) => setDisk(id, { pool: event.target.value })}
                    >
                      {pools.map((one) => (
                        <option key={one.id} value={one.id}>
                          {one.name}, {formatBinary(one.free.value ?? 0, 'down')} free
                        </option>
                      ))}
                    </select>
                    <input
                      aria-label={`Size of the volume of ${bay}`}
                      className="mono"
                      disabled={stays}
                      placeholder={formatBinary(volumeBytesFor(bytes))}
                      value={size}
                      onChange={(event) => setDisk(id, { size: event.target.value })}
                    />
                  </div>
                );
              })}
              {disks.length === 0 && (
                <p className="text-faint">
                  {device
                    ? `No disk of ${device.name} is recorded: its sheet takes what it prints.`
                    : 'Of the computer.'}
                </p>
              )}
              {errors.disks && <p className="text-xs font-bold text-signal">{errors.disks}</p>}
            </fieldset>
            <MoveTail form={kept} side="source" />
          </div>
          <Sending label="Plan the migration" form={form} />
        </form>
      }
    />
  );
}
