import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  omittable,
  ref,
  some,
  type DeciderOf,
} from '../record/index.js';
import { draftHostEdit } from './draft-host-edit.js';
import { fingerprint, hostName, ownFieldsOfHost } from './host-input.js';

/** A host's own fields, its state among them. */
export const editHost = change({
  type: 'host.edit',
  title: 'Edit the host',
  alters: ['id'],
  input: {
    id: ref('host'),
    name: omittable(hostName),
    ...some(fieldsOf('host'), ...ownFieldsOfHost),
    certificateSha256: fingerprint,
  },
});

export const decideEditHost: DeciderOf<typeof editHost> = (fleet, { id, ...fields }, context) => {
  const draft = draftOf(fleet, context);
  const host = draftHostEdit(fleet, draft, context, id, fields);
  if (isRefusal(host)) return host;
  const { state } = fields;
  const what =
    state !== undefined && state !== host.state
      ? `set host ${host.name} to ${state}`
      : `edited host ${host.name}: ${givenWords(fields)}`;
  return { draft, title: what, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};
