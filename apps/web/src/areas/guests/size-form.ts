/** What is typed on the page for sizing a guest, and the two requests it becomes: the question, and the plan. */
import type { ReadQuery, ProfileView, SizeAnswer } from '@insel/contract';
import { MIB, parseBytes, parseMemory, type Input, type Row } from '@insel/core';

export interface SizeDraft {
  profileId: string;
  load: string;
  growth: string;
  years: string;
  /** Typed instead of what is suggested; empty: as suggested. */
  vcpu: string;
  memory: string;
  system: string;
  data: string;
  networkIds: string[];
  groupId: string;
  ruleIds: string[];
  hostId: string;
  poolId: string;
  thin: boolean;
  variables: boolean;
  movesRunning: boolean;
  bus: string;
  model: string;
  firmware: string;
  processor: string;
  mediumId: string;
  translate: boolean;
  name: string;
  purpose: string;
  owner: string;
  ips: string[];
  reason: string;
  override: string;
}

/** Alters the draft. */
export type Set = (change: Partial<SizeDraft>) => void;

export const EMPTY_SIZE: SizeDraft = {
  profileId: '',
  load: '',
  growth: '0',
  years: '0',
  vcpu: '',
  memory: '',
  system: '',
  data: '',
  networkIds: [],
  groupId: '',
  ruleIds: [],
  hostId: '',
  poolId: '',
  thin: true,
  variables: true,
  movesRunning: true,
  bus: '',
  model: '',
  firmware: '',
  processor: '',
  mediumId: '',
  translate: true,
  name: '',
  purpose: '',
  owner: '',
  ips: [],
  reason: '',
  override: '',
};

/** The volume that keeps a guest's UEFI variables: a few MiB are plenty (common practice). */
const VARIABLES_BYTES = 4 * MIB;

type Faults = Partial<
  Record<'load' | 'growth' | 'years' | 'vcpu' | 'memory' | 'system' | 'data', string>
>;

const whole = (text: string, min: number, max: number): number | string =>
  /^\d+$/.test(text.trim()) && Number(text) >= min && Number(text) <= max
    ? Number(text)
    : `Write a whole number from ${min} to ${max}.`;

/** Numbers of the form, and what is wrong with each. */
export function readSize(draft: SizeDraft): {
  values: {
    load: number | null;
    growthPercent: number;
    years: number;
    vcpu: number | null;
    memoryMiB: number | null;
    systemBytes: number | null;
    dataBytes: number | null;
  };
  faults: Faults;
} {
  const faults: Faults = {};
  const take = <T>(
    field: keyof Faults,
    text: string,
    read: (text: string) => T | string,
    empty: T,
  ): T => {
    if (text.trim() === '') return empty;
    const value = read(text);
    if (typeof value !== 'string') return value;
    faults[field] = value;
    return empty;
  };
  const parsed =
    (read: (text: string) => { ok: true; value: number } | { ok: false; sentence: string }) =>
    (text: string) => {
      const value = read(text.trim() === '0' ? '0 B' : text);
      return value.ok ? value.value : value.sentence;
    };
  return {
    values: {
      load: take<number | null>('load', draft.load, (text) => whole(text, 0, 1e9), null),
      growthPercent: take('growth', draft.growth, (text) => whole(text, 0, 1000), 0),
      years: take('years', draft.years, (text) => whole(text, 0, 20), 0),
      vcpu: take<number | null>('vcpu', draft.vcpu, (text) => whole(text, 1, 4096), null),
      memoryMiB: take<number | null>('memory', draft.memory, parsed(parseMemory), null),
      systemBytes: take<number | null>('system', draft.system, parsed(parseBytes), null),
      dataBytes: take<number | null>('data', draft.data, parsed(parseBytes), null),
    },
    faults,
  };
}

/** The question; null while no role is chosen or a number cannot be read. */
export function sizeQuestion(
  draft: SizeDraft,
  profile: ProfileView | undefined,
  networkIds: readonly string[],
): ReadQuery<'guestSize'> | null {
  const { values, faults } = readSize(draft);
  if (!profile || Object.keys(faults).length > 0) return null;
  return {
    profileId: profile.id,
    ...values,
    load: profile.loadUnit ? values.load : null,
    networkIds: [...new Set(networkIds.filter(Boolean))],
    groupId: draft.groupId || null,
    ruleIds: draft.ruleIds,
    hostId: draft.hostId || null,
    movesRunning: draft.movesRunning,
  };
}

interface Devices {
  bus: Row<'volume'>['bus'];
  model: Row<'adapter'>['model'];
  firmware: Row<'guest'>['firmware'];
  processor: Row<'guest'>['processorMode'];
  graphics: Row<'guest'>['graphics'];
}

/** Devices as advised, unless others are chosen. */
export function devicesOf(draft: SizeDraft, answer: SizeAnswer): Devices {
  const advised = (device: SizeAnswer['devices'][number]['device']) =>
    answer.devices.find((found) => found.device === device)?.choice ?? 'unknown';
  return {
    bus: draft.bus || advised('disk bus'),
    model: draft.model || advised('adapter model'),
    firmware: draft.firmware || advised('firmware'),
    processor: draft.processor || advised('processor'),
    graphics: advised('graphics'),
  } as Devices;
}

/** The plan; null while there is no name or no host. */
export function sizePlan(
  draft: SizeDraft,
  profile: ProfileView | undefined,
  answer: SizeAnswer | undefined,
  networkIds: readonly string[],
  install: 'full' | 'network' | 'other' | null,
): Input<'guest.plan'> | null {
  if (!profile || !answer?.hostId || !draft.name.trim()) return null;
  const rank = answer.hosts.find((host) => host.hostId === answer.hostId);
  const poolId = rank?.pools.some((pool) => pool.poolId === draft.poolId)
    ? draft.poolId
    : rank?.pools[0]?.poolId;
  const devices = devicesOf(draft, answer);
  const { chosen } = answer;
  const disk = (label: string, bytes: number) =>
    bytes > 0 && poolId ? [{ poolId, bytes, label, thin: draft.thin, bus: devices.bus }] : [];
  const variables =
    draft.variables && devices.firmware === 'UEFI' && poolId && chosen.systemBytes > 0
      ? [
          {
            poolId,
            bytes: VARIABLES_BYTES,
            label: 'UEFI variables',
            use: 'UEFI variables' as const,
          },
        ]
      : [];
  return {
    name: draft.name.trim(),
    purpose: draft.purpose,
    owner: draft.owner,
    hostId: answer.hostId,
    family: profile.family,
    profileId: profile.id,
    groupId: draft.groupId || null,
    ruleIds: draft.ruleIds,
    vcpu: chosen.vcpu,
    memoryMiB: chosen.memoryMiB,
    startSeconds: profile.startSeconds,
    forwards: profile.forwards,
    nestedVirtualisation: profile.nested,
    firmware: devices.firmware,
    processorMode: devices.processor,
    graphics: devices.graphics,
    bootFirst: install === null ? (chosen.systemBytes > 0 ? 'disk' : 'unknown') : 'medium',
    volumes: [
      ...disk('system', chosen.systemBytes),
      ...disk('data', chosen.dataBytes),
      ...variables,
    ],
    adapters: networkIds.filter(Boolean).map((networkId, i) => ({
      networkId,
      model: devices.model,
      masquerade: profile.forwards && draft.translate && i === 0,
      address: draft.ips[i]?.trim()
        ? ({ as: 'given', ip: draft.ips[i].trim() } as const)
        : ({ as: 'next' } as const),
    })),
    mediumIds: draft.mediumId ? [draft.mediumId] : [],
  };
}
