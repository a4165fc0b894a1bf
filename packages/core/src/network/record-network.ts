import { change, draftOf, isRefusal, type DeciderOf } from '../record/index.js';
import { draftNetwork } from './draft-network.js';
import { networkInput } from './network-input.js';

/** A network, with a subnet and its ranges if it has one. */
export const recordNetwork = change({
  type: 'network.record',
  title: 'Record a network',
  input: networkInput,
});

export const decideRecordNetwork: DeciderOf<typeof recordNetwork> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const made = draftNetwork(fleet, draft, input, 'subnet.');
  if (isRefusal(made)) return made;
  return {
    draft,
    title: `recorded network ${made.name}`,
    subjects: [{ kind: 'network', ...made }],
  };
};
