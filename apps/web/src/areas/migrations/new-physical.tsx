/** A computer that becomes a guest, or a guest that goes onto a computer: few fields, what the record knows beside them. */
import {
  checkInput,
  type DeviceListRow,
  type GuestListRow,
  type HostListRow,
  type PhysicalRoute,
} from '@insel/contract';
import {
  formatBinary,
  formatMemory,
  METHODS,
  MOVE_METHODS,
  parseBytes,
  parseMemory,
  volumeBytesFor,
  type Input,
} from '@insel/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Sending, usePreview } from '../../components/consequences.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useChange } from '../../frame/change.js';
import { useDraft } from '../../frame/draft.js';
import { useRead } from '../../frame/read.js';
import { Checks, EstimateLines } from './checks.js';
import { LinkField, MethodField, moveInput, NO_MOVE_FIELDS, WindowFields } from './move-fields.js';
import { MoveKinds } from './move-kinds.js';

export function NewPhysical() {
  const [search] = useSearchParams();
  const onto = search.get('onto');
  return onto === null ? <FromComputer key="from" /> : <OntoComputer key="onto" deviceId={onto} />;
}

const OF_COMPUTERS = (side: 'source' | 'target') =>
  MOVE_METHODS.filter((method) => ['both', side].includes(METHODS[method].ofComputers ?? ''));
const ofComputer = { kind: 'computer' as const };

type Physical = 'migration.plan-from-physical' | 'migration.plan-to-physical';

/** Planning it: what is typed is checked, previewed and sent. */
function usePlan<T extends Physical>(type: T, input: Input<T>, complete: boolean) {
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
  const blocked = Boolean(
    problem?.overridable || preview?.objections.some((found) => found.overridable),
  );
  return { busy, problem, blocked, error: { ...errorsOf(problem), ...errors }, route, send };
}

function Beside({ route, hint }: { route: PhysicalRoute | undefined; hint: string }) {
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

function FromComputer() {
  const [search] = useSearchParams();
  const asked = search.get('device') ?? '';
  const [draft, set, forget] = useDraft(`physical:${asked}`, () => EMPTY_FROM);
  const deviceId = draft.deviceId || asked;
  const device = useRead('device', deviceId ? { id: deviceId } : null).data?.device;
  const host = useRead('host', draft.targetHostId ? { id: draft.targetHostId } : null).data;
  const pools = host?.pools ?? [];
  const advised = device?.computer?.asGuest;
  const memory = draft.memory.trim() ? parseMemory(draft.memory) : null;
  const disks = device?.computer?.disks ?? [];
  const moving = disks.filter(({ id }) => !draft.disks[id]?.stays);
  const sizeOf = (id: string, bytes: number) => {
    const typed = draft.disks[id]?.size.trim();
    const read = typed ? parseBytes(typed) : null;
    return read?.ok ? read.value : volumeBytesFor(bytes);
  };
  const input = {
    deviceId,
    targetHostId: draft.targetHostId,
    name: draft.name.trim() || (device?.name ?? ''),
    vcpu: draft.vcpu.trim() ? Number(draft.vcpu) : (advised?.vcpu.value ?? 1),
    memoryMiB: memory?.ok ? memory.value : (advised?.memory.value ?? 1),
    disks: moving.map(({ id, bytes }) => ({
      computerDiskId: id,
      poolId: draft.disks[id]?.pool || (pools[0]?.id ?? ''),
      bytes: sizeOf(id, bytes),
      thin: true,
    })),
    keepsBoth: draft.keepsBoth,
    ...(draft.owner.trim() ? { owner: draft.owner.trim() } : {}),
    ...moveInput(draft),
  };
  const complete = Boolean(device && host && moving.length > 0 && pools.length > 0);
  const { busy, problem, blocked, error, route, send } = usePlan(
    'migration.plan-from-physical',
    input,
    complete,
  );
  const setDisk = (id: string, change: Partial<DiskDraft>) =>
    set({ disks: { ...draft.disks, [id]: { ...(draft.disks[id] ?? NO_DISK), ...change } } });
  return (
    <Making
      title="Make a computer a guest"
      consequences={
        <Beside
          route={complete ? route : undefined}
          hint="Choose a computer whose disks are recorded, and a host: checks and the estimate appear here."
        />
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <MoveKinds now="from" />
          <div className="grid max-w-[760px] grid-cols-1 gap-3 sm:grid-cols-2">
            <Field label="Computer" error={error.deviceId}>
              <Choose<DeviceListRow>
                list="devices"
                query={ofComputer}
                value={deviceId}
                onChange={(id) => set({ deviceId: id, disks: {} })}
                detail={(row) => `${row.addresses.join(', ')}, ${row.state}`}
              />
            </Field>
            <Field label="To host" error={error.targetHostId}>
              <Choose<HostListRow>
                list="hosts"
                value={draft.targetHostId}
                onChange={(id) => set({ targetHostId: id, disks: {} })}
                detail={(row) => `${formatMemory(row.memoryLeftMiB, 'down')} left, ${row.state}`}
              />
            </Field>
            <Field label="Name of the guest" error={error.name} hint="empty: as the computer">
              <input value={draft.name} onChange={(event) => set({ name: event.target.value })} />
            </Field>
            <Field label="Who looks after it" error={error.owner}>
              <input value={draft.owner} onChange={(event) => set({ owner: event.target.value })} />
            </Field>
            <Field
              label="vCPU"
              error={error.vcpu}
              hint={
                advised?.vcpu.value == null
                  ? 'its cores are not recorded'
                  : `empty: ${advised.vcpu.value}`
              }
            >
              <input
                className="mono"
                inputMode="numeric"
                value={draft.vcpu}
                onChange={(event) => set({ vcpu: event.target.value })}
              />
            </Field>
            <Field
              label="Memory"
              error={memory?.ok === false ? memory.sentence : error.memoryMiB}
              hint={
                advised?.memory.value == null
                  ? 'its memory is not recorded'
                  : `empty: ${formatMemory(advised.memory.value)}`
              }
            >
              <input
                className="mono"
                value={draft.memory}
                onChange={(event) => set({ memory: event.target.value })}
              />
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
              {error.disks && <p className="text-xs font-bold text-signal">{error.disks}</p>}
            </fieldset>
            <MethodField of={draft} set={set} error={error} methods={OF_COMPUTERS('source')} />
            <LinkField of={draft} set={set} />
            <WindowFields of={draft} set={set} error={error} />
            <KeepsBoth keeps={draft.keepsBoth} set={(keepsBoth) => set({ keepsBoth })} />
          </div>
          <ProblemNote problem={problem} />
          <Sending
            label="Plan the migration"
            busy={busy}
            blocked={blocked}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send(draft, forget)}
          />
        </form>
      }
    />
  );
}

const KeepsBoth = ({ keeps, set }: { keeps: boolean; set: (keeps: boolean) => void }) => (
  <label className="col-span-full flex min-h-6 items-center gap-2">
    <input type="checkbox" checked={keeps} onChange={(event) => set(event.target.checked)} />
    It is a copy: both stay, and the new one gets an identity of its own
  </label>
);

const EMPTY_ONTO = {
  ...NO_MOVE_FIELDS,
  method: 'intermediate disk',
  guestId: '',
  deviceId: '',
  /** Disk by volume. */
  disks: {} as Record<string, string>,
  keepsBoth: false,
  reason: '',
  override: '',
};

function OntoComputer({ deviceId: asked }: { deviceId: string }) {
  const [search] = useSearchParams();
  const [draft, set, forget] = useDraft(`onto:${asked}`, () => EMPTY_ONTO);
  const guestId = draft.guestId || search.get('guest') || '';
  const deviceId = draft.deviceId || asked;
  const guest = useRead('guest', guestId ? { id: guestId } : null).data;
  const device = useRead('device', deviceId ? { id: deviceId } : null).data?.device;
  const disks = device?.computer?.disks ?? [];
  const volumes = (guest?.volumes ?? []).filter(({ use }) => use === 'disk');
  const diskOf = (volumeId: string, i: number) => draft.disks[volumeId] ?? disks[i]?.id ?? '';
  const input: Input<'migration.plan-to-physical'> = {
    guestId,
    deviceId,
    disks: volumes.flatMap(({ id }, i) =>
      diskOf(id, i) ? [{ volumeId: id, computerDiskId: diskOf(id, i) }] : [],
    ),
    keepsBoth: draft.keepsBoth,
    ...moveInput(draft),
  };
  const complete = Boolean(guest && device && input.disks.length > 0);
  const { busy, problem, blocked, error, route, send } = usePlan(
    'migration.plan-to-physical',
    input,
    complete,
  );
  return (
    <Making
      title="Put a guest onto a computer"
      consequences={
        <Beside
          route={complete ? route : undefined}
          hint="Choose a guest, and a computer whose disks are recorded: checks and the estimate appear here."
        />
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <MoveKinds now="onto" />
          <div className="grid max-w-[760px] grid-cols-1 gap-3 sm:grid-cols-2">
            <Field label="Guest" error={error.guestId}>
              <Choose<GuestListRow>
                list="guests"
                value={guestId}
                onChange={(id) => set({ guestId: id, disks: {} })}
                detail={(row) => `on ${row.host.name}, ${row.state}`}
              />
            </Field>
            <Field label="Computer" error={error.deviceId}>
              <Choose<DeviceListRow>
                list="devices"
                query={ofComputer}
                value={deviceId}
                onChange={(id) => set({ deviceId: id, disks: {} })}
                detail={(row) => `${row.addresses.join(', ')}, ${row.state}`}
              />
            </Field>
            <fieldset className="col-span-full">
              <legend className="text-xs font-bold text-faint">
                Volumes, and the disks that they overwrite
              </legend>
              {volumes.map(({ id, label, bytes }, i) => (
                <div key={id} className="grid min-h-8 grid-cols-2 items-center gap-2">
                  <span>
                    {label} <span className="mono text-[13px]">{formatBinary(bytes)}</span>
                  </span>
                  <select
                    aria-label={`Disk for ${label}`}
                    value={diskOf(id, i)}
                    onChange={(event) =>
                      set({ disks: { ...draft.disks, [id]: event.target.value } })
                    }
                  >
                    <option value="">none</option>
                    {disks.map((disk) => (
                      <option key={disk.id} value={disk.id}>
                        {[disk.bay, disk.model, disk.serial, formatBinary(disk.bytes, 'down')]
                          .filter(Boolean)
                          .join(', ')}
                      </option>
                    ))}
                  </select>
                </div>
              ))}
              {volumes.length === 0 && <p className="text-faint">Of the guest.</p>}
              {error.disks && <p className="text-xs font-bold text-signal">{error.disks}</p>}
            </fieldset>
            <MethodField of={draft} set={set} error={error} methods={OF_COMPUTERS('target')} />
            <LinkField of={draft} set={set} />
            <WindowFields of={draft} set={set} error={error} />
            <KeepsBoth keeps={draft.keepsBoth} set={(keepsBoth) => set({ keepsBoth })} />
          </div>
          <ProblemNote problem={problem} />
          <Sending
            label="Plan the migration"
            busy={busy}
            blocked={blocked}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send(draft, forget)}
          />
        </form>
      }
    />
  );
}
