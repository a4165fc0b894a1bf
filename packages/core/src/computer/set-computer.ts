import {
  beginning,
  change,
  draftOf,
  fieldsOf,
  list,
  noSuch,
  omittable,
  ref,
  refuse,
  some,
  tidy,
  without,
  type DeciderOf,
  type Draft,
  type Fleet,
  type Values,
} from '../record/index.js';
import { givenWords } from '../quantity/index.js';
import { onlyComputers } from './only-computers.js';

const computer = fieldsOf('computer');
const computerDisk = fieldsOf('computerDisk');

const computerDiskInput = beginning(computerDisk, ...without(computerDisk, 'deviceId'));

/** Hardware and system of a computer that runs no guests; a list of disks replaces the one recorded. */
export const setComputer = change({
  type: 'computer.set',
  title: 'Record hardware and system',
  alters: ['id'],
  input: {
    id: ref('device'),
    ...some(computer, ...without(computer, 'deviceId')),
    disks: omittable(list(computerDiskInput, 64)),
  },
});

export const decideSetComputer: DeciderOf<typeof setComputer> = (
  fleet,
  { id: deviceId, disks, ...fields },
  context,
) => {
  const device = fleet.get('device', deviceId);
  if (!device) return noSuch('device');
  const other = onlyComputers(device, 'id');
  if (other) return other;
  const bays = disks?.map(({ bay }) => bay.trim()) ?? [];
  const twice = bays.findIndex((bay, i) => bays.indexOf(bay) < i);
  if (twice >= 0)
    return refuse({
      code: 'twice',
      field: `disks.${twice}.bay`,
      sentence: `The disk ${bays[twice]} stands here twice.`,
    });
  const draft = draftOf(fleet, context);
  draftComputer(fleet, draft, deviceId, fields, disks);
  const said = [givenWords(fields), disks ? 'disks' : ''].filter(Boolean).join(', ');
  return {
    draft,
    title: `recorded hardware and system of ${device.name}: ${said || 'nothing yet'}`,
    subjects: [{ kind: 'device', id: device.id, name: device.name }],
  };
};

/** Disks are recognised by their bay, so that one keeps its row when a value alters. */
export function draftComputer(
  fleet: Fleet,
  draft: Draft,
  deviceId: string,
  fields: Values,
  disks?: readonly Values[],
): void {
  const held = fleet.get('device', deviceId)
    ? fleet.referring('computer', 'deviceId', deviceId)[0]
    : undefined;
  const tidied = tidy('computer', fields);
  if (held) draft.update('computer', held.id, tidied);
  else draft.create('computer', { ...tidied, deviceId });
  if (!disks) return;
  const rows = new Map(
    fleet.referring('computerDisk', 'deviceId', deviceId).map((disk) => [disk.bay, disk]),
  );
  for (const disk of disks) {
    const values = tidy('computerDisk', disk);
    const row = rows.get(String(values.bay));
    rows.delete(String(values.bay));
    if (row) draft.update('computerDisk', row.id, values);
    else draft.create('computerDisk', { ...values, deviceId });
  }
  for (const row of rows.values()) draft.remove('computerDisk', row.id);
}
