import { counted, givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  omittable,
  refs,
  refuse,
  some,
  type DeciderOf,
  type Row,
} from '../record/index.js';
import { draftHostEdit } from './draft-host-edit.js';
import { fingerprint, hostName, ownFieldsOfHost } from './host-input.js';

/** The same fields of several hosts, all or none. */
export const editHosts = change({
  type: 'host.edit-many',
  title: 'Edit hosts',
  alters: ['ids'],
  input: {
    ids: refs('host'),
    name: omittable(hostName),
    ...some(fieldsOf('host'), ...ownFieldsOfHost),
    certificateSha256: fingerprint,
  },
});

export const decideEditHosts: DeciderOf<typeof editHosts> = (
  fleet,
  { ids, ...fields },
  context,
) => {
  if (fields.name !== undefined && ids.length > 1)
    return refuse({
      code: 'name-taken',
      field: 'name',
      sentence: 'Several hosts cannot have one name.',
    });
  const draft = draftOf(fleet, context);
  const hosts: Row<'host'>[] = [];
  for (const id of new Set(ids)) {
    const host = draftHostEdit(fleet, draft, context, id, fields);
    if (isRefusal(host)) return host;
    hosts.push(host);
  }
  return {
    draft,
    title: `edited ${counted(hosts.length, 'host')}: ${givenWords(fields)}`,
    subjects: hosts.slice(0, 50).map(({ id, name }) => ({ kind: 'host', id, name })),
  };
};
