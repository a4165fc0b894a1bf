import { change, draftOf, noSuch, ref, tidy, type DeciderOf } from '../record/index.js';
import { rangeInput } from './network-input.js';

/** Sets a range of a subnet apart. */
export const recordRange = change({
  type: 'range.record',
  title: 'Set a range apart',
  input: { subnetId: ref('subnet'), ...rangeInput },
});

export const decideRecordRange: DeciderOf<typeof recordRange> = (
  fleet,
  { subnetId, ...fields },
  context,
) => {
  const subnet = fleet.get('subnet', subnetId);
  if (!subnet) return noSuch('subnet');
  const draft = draftOf(fleet, context);
  draft.create('range', { ...tidy('range', fields), subnetId: subnet.id });
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `set apart ${fields.firstIp} – ${fields.lastIp} of ${network.name}, ${fields.use}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
