/** A guest that goes onto a computer: few fields, what the record knows beside them. */
import type { DeviceListRow, GuestListRow } from '@insel/contract';
import { formatBinary, type Input } from '@insel/core';
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

export function OntoComputer({ deviceId: initialId }: { deviceId: string }) {
  const [search] = useSearchParams();
  const kept = useKeptForm(`onto:${initialId}`, () => EMPTY_ONTO);
  const { values: draft, set } = kept;
  const guestId = draft.guestId || search.get('guest') || '';
  const deviceId = draft.deviceId || initialId;
  const guest = useRead('guest', guestId ? { id: guestId } : null).data;
  const device = useRead('device', deviceId ? { id: deviceId } : null).data?.device;
  const disks = device?.computer?.disks ?? [];
  const volumes = (guest?.volumes ?? []).filter(({ use }) => use === 'disk');
  const diskOf = (typed: typeof EMPTY_ONTO, volumeId: string, i: number) =>
    typed.disks[volumeId] ?? disks[i]?.id ?? '';
  const read = (typed: typeof EMPTY_ONTO): [Input<'migration.plan-to-physical'>] => [
    {
      guestId,
      deviceId,
      disks: volumes.flatMap(({ id }, i) => {
        const computerDiskId = diskOf(typed, id, i);
        return computerDiskId ? [{ volumeId: id, computerDiskId }] : [];
      }),
      keepsBoth: typed.keepsBoth,
      ...moveInput(typed),
    },
  ];
  const form = usePlan(kept, {
    type: 'migration.plan-to-physical',
    read,
    complete: Boolean(guest && device && read(draft)[0].disks.length > 0),
  });
  const { errors } = form;
  return (
    <Making
      title="Put a guest onto a computer"
      consequences={
        <Beside
          route={form.route}
          hint="Choose a guest, and a computer whose disks are recorded: checks and the estimate appear here."
        />
      }
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <MoveKinds now="onto" />
          <div className="grid max-w-[760px] grid-cols-1 gap-3 sm:grid-cols-2">
            <Field label="Guest" error={errors.guestId}>
              <Choose<GuestListRow>
                list="guests"
                value={guestId}
                onChange={(id) => set({ guestId: id, disks: {} })}
                detail={(row) => `on ${row.host.name}, ${row.state}`}
              />
            </Field>
            <Field label="Computer" error={errors.deviceId}>
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
                    value={diskOf(draft, id, i)}
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
              {errors.disks && <p className="text-xs font-bold text-signal">{errors.disks}</p>}
            </fieldset>
            <MoveTail form={kept} side="target" />
          </div>
          <Sending label="Plan the migration" form={form} />
        </form>
      }
    />
  );
}
