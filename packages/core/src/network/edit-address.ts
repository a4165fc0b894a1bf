import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  ref,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';
import { holderOf } from './release.js';

/** How an address is configured: its prefix length there, its use, the switch of the host that it sits on. */
export const editAddress = change({
  type: 'address.edit',
  title: 'Edit the address',
  alters: ['id'],
  input: {
    id: ref('address'),
    ...some(fieldsOf('address'), 'prefixLength', 'use', 'purpose', 'virtualSwitchId'),
  },
});

export const decideEditAddress: DeciderOf<typeof editAddress> = (
  fleet,
  { id, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const address = editFields(fleet, draft, 'address', id, fields);
  if (isRefusal(address)) return address;
  const most = address.ip.includes(':') ? 128 : 32;
  if (typeof fields.prefixLength === 'number' && fields.prefixLength > most) {
    return refuse({
      code: 'bad-value',
      field: 'prefixLength',
      sentence: `/${fields.prefixLength}: a prefix length of ${address.ip} is 0 to ${most}.`,
    });
  }
  if (address.hostId) draft.update('host', address.hostId, { networkChangedAt: context.now });
  const subject = holderOf(fleet, address);
  return {
    draft,
    title: `edited ${address.ip} of ${subject.name}: ${givenWords(fields)}`,
    subjects: [subject],
  };
};
