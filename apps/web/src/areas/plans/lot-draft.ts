/** A lot as it is typed, and what is asked of it. */
import type { LotBody } from '@insel/contract';
import { parseMemory, parseBytes } from '@insel/core';
import { asWords } from '../../components/bulk-edit.js';
import type { Errors } from '../../components/field.js';

export interface LotDraft {
  pattern: string;
  count: string;
  family: LotBody['family'];
  profileId: string;
  /** Words, by which licences may be given. */
  labels: string;
  guestGroupId: string;
  vcpu: string;
  memory: string;
  size: string;
  thin: boolean;
  /** Empty: a pool of the host that it comes to. */
  poolId: string;
  networkId: string;
  apart: LotBody['apart'];
  processorMode: LotBody['processorMode'];
}

export const EMPTY_LOT: LotDraft = {
  ...{ pattern: 'new-{n}', count: '4', family: 'Linux', profileId: '', labels: '' },
  guestGroupId: '',
  ...{ vcpu: '2', memory: '4 GiB', size: '50 GiB', thin: false, poolId: '', networkId: '' },
  apart: 'none',
  processorMode: 'unknown',
};

/** What is sent of a lot, or what is wrong with it. */
export function readLot(draft: LotDraft): { lot: LotBody } | { errors: Errors } {
  const memory = parseMemory(draft.memory);
  const size = draft.size.trim() ? parseBytes(draft.size) : { ok: true as const, value: 0 };
  const [count, vcpu] = [Number(draft.count), Number(draft.vcpu)];
  const errors: Errors = {
    ...(draft.pattern.trim() ? {} : { pattern: 'Write names, such as net-{n}.' }),
    ...(Number.isInteger(count) && count > 0 ? {} : { count: 'A whole number from 1.' }),
    ...(Number.isInteger(vcpu) && vcpu > 0 ? {} : { vcpu: 'A whole number from 1.' }),
    ...(memory.ok ? {} : { memoryMiB: memory.sentence }),
    ...(size.ok ? {} : { bytes: size.sentence }),
  };
  if (!memory.ok || !size.ok || Object.keys(errors).length > 0) return { errors };
  const { family, thin, apart, processorMode } = draft;
  return {
    lot: {
      ...{ pattern: draft.pattern.trim(), count, family, vcpu, thin, apart, processorMode },
      ...{ memoryMiB: memory.value, bytes: size.value },
      profileId: draft.profileId || null,
      labels: asWords(draft.labels),
      guestGroupId: draft.guestGroupId || null,
      poolId: draft.poolId || null,
      networkIds: draft.networkId ? [draft.networkId] : [],
    },
  };
}
