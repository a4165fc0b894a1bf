import {
  draftOf,
  isRefusal,
  refuse,
  type ChangeBase,
  type Decider,
  type Values,
} from '../record/index.js';
import { draftHostEdit } from './edit-host.js';
import { draftHardware, type HardwareInput } from './set-hardware.js';

/** Takes chosen facts of a machine into the record of a host, as seen by an import: it is confirmed by that. */
export interface TakeFacts extends ChangeBase {
  type: 'host.take-facts';
  hostId: string;
  fields: Values;
  hardware: HardwareInput;
  /** Where the facts came from: "facts script", "Redfish". */
  from: string;
}

export const takeFacts: Decider<TakeFacts> = (fleet, change, edge) => {
  const taken = [...Object.keys(change.fields), ...Object.keys(change.hardware)];
  if (taken.length === 0)
    return refuse({ code: 'none', sentence: 'Choose at least one fact to take.' });
  const draft = draftOf(fleet, edge);
  const host = draftHostEdit(fleet, draft, edge, change.hostId, change.fields);
  if (isRefusal(host)) return host;
  const fault = draftHardware(fleet, draft, host.id, change.hardware);
  if (fault) return fault;
  draft.update('host', host.id, { confirmedAt: edge.now, confirmedBy: `import (${change.from})` });
  return {
    draft,
    title: `took ${taken.length} facts of ${host.name} from the ${change.from}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
