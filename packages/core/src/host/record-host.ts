import { change, draftOf, isRefusal, type DeciderOf } from '../record/index.js';
import { draftHost } from './draft-host.js';
import { hostInput } from './host-input.js';

/** As it is, or as it is planned. */
export const recordHost = change({
  type: 'host.record',
  title: 'Record a host',
  input: hostInput,
});

export const decideRecordHost: DeciderOf<typeof recordHost> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const drafted = draftHost(fleet, draft, context, input);
  if (isRefusal(drafted)) return drafted;
  return {
    draft,
    title: `recorded host ${drafted.name}`,
    subjects: [{ kind: 'host', id: drafted.hostId, name: drafted.name }],
    objections: drafted.objections,
  };
};
