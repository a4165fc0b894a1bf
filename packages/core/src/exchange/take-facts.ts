import { counted } from '../quantity/index.js';
import { draftHardware, draftHostEdit } from '../host/index.js';
import {
  change,
  draftOf,
  isRefusal,
  noSuch,
  pasted,
  ref,
  refuse,
  texts,
  type DeciderOf,
} from '../record/index.js';
import { chosenFacts, readFacts } from './compare-facts.js';

/** Chosen facts of a machine, out of what it printed, go into the record of a host: it is confirmed by that. */
export const takeFacts = change({
  type: 'host.take-facts',
  title: 'Take facts in',
  alters: ['hostId'],
  input: {
    hostId: ref('host'),
    /** What the script printed, or a Redfish document. */
    text: pasted(2_000_000),
    /** Fields and lists to take. */
    chosen: texts(40),
  },
});

export const decideTakeFacts: DeciderOf<typeof takeFacts> = (fleet, input, context) => {
  const { hostId, text, chosen } = input;
  if (!fleet.get('host', hostId)) return noSuch('host');
  const read = readFacts(text);
  if (!read.ok)
    return refuse({
      code: 'facts-not-read',
      field: 'text',
      sentence: read.sentence,
      remedy: 'Nothing was altered.',
    });
  const { fields, hardware } = chosenFacts(fleet, read.facts, chosen, hostId);
  const taken = [...Object.keys(fields), ...Object.keys(hardware)];
  if (taken.length === 0)
    return refuse({
      code: 'none',
      field: 'chosen',
      sentence: 'Choose at least one fact to take.',
    });
  const draft = draftOf(fleet, context);
  const host = draftHostEdit(fleet, draft, context, hostId, fields);
  if (isRefusal(host)) return host;
  const fault = draftHardware(fleet, draft, host.id, hardware);
  if (fault) return fault;
  draft.update('host', host.id, {
    confirmedAt: context.now,
    confirmedBy: `import (${read.from})`,
  });
  return {
    draft,
    title: `took ${counted(taken.length, 'fact')} of ${host.name} from the ${read.from}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
