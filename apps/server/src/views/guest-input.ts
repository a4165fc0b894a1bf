/** A request about a guest as the core takes it. */
import type { AdapterPart, PlanGuestBody, RecordGuestBody } from '@insel/contract';
import type { AdapterInput, GuestInput } from '@insel/core';
import { fieldsIn } from '../http/writes.js';

const adapterInput = ({
  networkId,
  mac,
  model,
  masquerade,
  address,
}: AdapterPart): AdapterInput => ({
  networkId: networkId ?? null,
  mac,
  model,
  masquerade,
  address:
    address.take === 'given' ? { take: 'given', ip: address.ip ?? '' } : { take: address.take },
});

export const guestInput = (body: PlanGuestBody | RecordGuestBody): GuestInput => ({
  fields: fieldsIn(body as PlanGuestBody, 'volumes', 'adapters', 'mediumIds', 'ruleIds'),
  volumes: body.volumes,
  adapters: body.adapters.map(adapterInput),
  mediumIds: body.mediumIds,
});
