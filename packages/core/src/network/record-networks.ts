import { counted } from '../quantity/index.js';
import { change, draftOf, isRefusal, list, refuse, type DeciderOf } from '../record/index.js';
import { draftNetwork } from './draft-network.js';
import { plannedNetworkInput } from './network-input.js';

/** Several networks with their subnets, all or none: what a prefix plan comes to. */
export const recordNetworks = change({
  type: 'network.record-many',
  title: 'Record several networks',
  input: { networks: list(plannedNetworkInput, 512) },
});

export const decideRecordNetworks: DeciderOf<typeof recordNetworks> = (fleet, input, context) => {
  if (input.networks.length === 0)
    return refuse({
      code: 'none',
      field: 'networks',
      sentence: 'There is no network to record here.',
    });
  const draft = draftOf(fleet, context);
  const subjects = [];
  const names = new Set<string>();
  for (const [i, network] of input.networks.entries()) {
    const made = draftNetwork(fleet, draft, network, 'subnet.');
    if (isRefusal(made)) return { ...made, field: `networks.${i}.${made.field}` };
    if (names.has(made.name.toLowerCase()))
      return refuse({
        code: 'name-taken',
        field: `networks.${i}.name`,
        sentence: `${made.name} stands here twice.`,
      });
    names.add(made.name.toLowerCase());
    subjects.push({ kind: 'network' as const, ...made });
  }
  return {
    draft,
    title:
      `recorded ${counted(subjects.length, 'network')}: ${subjects.map(({ name }) => name).join(', ')}`.slice(
        0,
        200,
      ),
    subjects,
  };
};
