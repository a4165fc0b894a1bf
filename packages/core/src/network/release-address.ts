import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  omittable,
  ref,
  type DeciderOf,
} from '../record/index.js';
import { holderOf, release } from './release.js';

/** Takes an address from its holder; it is free again, at once or after its rest. */
export const releaseAddress = change({
  type: 'address.release',
  title: 'Release the address',
  carried: 'by hand',
  alters: ['id'],
  input: {
    id: ref('address'),
    /** Days it rests; left out: as its subnet says. */
    restDays: omittable(fieldsOf('subnet').quarantineDays),
  },
});

export const decideReleaseAddress: DeciderOf<typeof releaseAddress> = (fleet, input, context) => {
  const address = fleet.get('address', input.id);
  if (!address) return noSuch('address');
  const draft = draftOf(fleet, context);
  const until = release(fleet, draft, address, context.now, input.restDays);
  if (address.hostId) draft.update('host', address.hostId, { networkChangedAt: context.now });
  const subject = holderOf(fleet, address);
  return {
    draft,
    title: `released ${address.ip} of ${subject.name}${until ? `, resting until ${until}` : ''}`,
    subjects: [subject],
  };
};
