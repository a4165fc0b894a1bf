/** What is typed for many clones, and what is asked of the server by it. */
import { MOST_CLONES, parseMemory, type SpreadRule } from '@insel/core';
import type { Errors } from '../../components/field.js';
import type { Cells, CloneCells } from './clone-cell.js';

export const EMPTY = {
  originId: '',
  count: '3',
  pattern: '',
  start: '1',
  copy: 'full',
  taking: 'run',
  addressUse: 'static',
  spread: 'beside' as SpreadRule,
  vcpu: '',
  memory: '',
  groupId: '',
  serviceId: '',
  owner: '',
  endDate: '',
  cells: {} as Cells,
  reason: '',
  override: '',
};

export type Draft = typeof EMPTY;

export const countOf = ({ count }: Draft) => Math.max(0, Math.min(MOST_CLONES, Number(count) || 0));

export function inputOf(draft: Draft, originId: string, pattern: string): [object, Errors] {
  const { copy, taking, addressUse, spread, groupId, serviceId, owner, endDate } = draft;
  const input = {
    originId,
    copy,
    pattern,
    start: Number(draft.start),
    taking,
    addressUse,
    spread,
    ...sizeOf(draft),
    ...given({ groupId, serviceId, owner, endDate }),
    clones: Array.from({ length: countOf(draft) }, (_, i) => cloneInput(draft.cells[i] ?? {})),
  };
  return [input, originId ? {} : { originId: 'Choose the guest to copy.' }];
}

/** What is not empty. */
const given = <T extends Record<string, string>>(fields: T): Partial<T> =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== '')) as Partial<T>;

/** As typed; what cannot be read is sent as it is, so that the check says what is wrong with it. */
function sizeOf({ vcpu, memory }: { vcpu?: string; memory?: string }) {
  const size = parseMemory(memory ?? '');
  return {
    ...(vcpu ? { vcpu: Number(vcpu) } : {}),
    ...(memory ? { memoryMiB: size.ok ? size.value : Number.NaN } : {}),
  };
}

const cloneInput = ({ vcpu, memory, ...cells }: CloneCells) => ({
  ...cells,
  ...sizeOf({ vcpu, memory }),
});

export const somethingMore = (draft: Draft): boolean =>
  [draft.vcpu, draft.memory, draft.groupId, draft.serviceId, draft.owner, draft.endDate].some(
    (value) => value !== '',
  );
