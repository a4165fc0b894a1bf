/** Roles to begin with: invented generic ones. Every value is common practice without a source, and can be altered. */
import { GB, GIB } from '../quantity/index.js';
import {
  draftOf,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type NewFields,
} from '../record/index.js';

const TOOLS_LATER = { paravirtualDisk: false, paravirtualNetwork: false };

/** What "usual" serves stands in `usualLoad`; each step of load above it adds what the step fields say. */
export const USUAL_PROFILES: readonly NewFields<'profile'>[] = [
  {
    name: 'text server',
    family: 'Linux',
    minimumMemoryMiB: 512,
    minimumBytes: 8 * GIB,
    usualVcpu: 1,
    usualMemoryMiB: 1024,
    usualBytes: 8 * GIB,
    notes: 'A small service without a desktop: one idled at 70 MB, another used 5 % of 1 GiB.',
  },
  {
    name: 'general server',
    family: 'Linux',
    minimumVcpu: 1,
    minimumMemoryMiB: 1024,
    minimumBytes: 16 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 3072,
    usualBytes: 50 * GIB,
    loadUnit: 'users',
    usualLoad: 50,
    loadStep: 100,
    stepMilliVcpu: 1000,
    stepMemoryMiB: 1024,
  },
  {
    name: 'web server',
    family: 'Linux',
    minimumMemoryMiB: 1024,
    minimumBytes: 10 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 2048,
    usualBytes: 20 * GIB,
    loadUnit: 'requests per second',
    usualLoad: 50,
    loadStep: 100,
    stepMilliVcpu: 1000,
    stepMemoryMiB: 1024,
    apart: true,
  },
  {
    name: 'database',
    family: 'Linux',
    minimumVcpu: 2,
    minimumMemoryMiB: 4096,
    minimumBytes: 32 * GIB,
    usualVcpu: 4,
    usualMemoryMiB: 8192,
    usualBytes: 40 * GIB,
    usualDataBytes: 100 * GB,
    loadUnit: 'GB kept',
    usualLoad: 80,
    loadStep: 100,
    stepMilliVcpu: 500,
    stepMemoryMiB: 4096,
    stepDataBytes: 130 * GB,
    startSeconds: 240,
  },
  {
    name: 'camera store',
    family: 'Linux',
    minimumVcpu: 2,
    minimumMemoryMiB: 4096,
    minimumBytes: 32 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 4096,
    usualBytes: 32 * GIB,
    loadUnit: 'cameras',
    usualLoad: 0,
    loadStep: 1,
    stepMilliVcpu: 250,
    stepMemoryMiB: 256,
    stepDataBytes: 500 * GB,
  },
  {
    name: 'name server',
    family: 'BSD',
    minimumMemoryMiB: 512,
    minimumBytes: 8 * GIB,
    usualVcpu: 1,
    usualMemoryMiB: 1024,
    usualBytes: 16 * GIB,
    apart: true,
  },
  {
    name: 'directory',
    family: 'NT family',
    display: 'graphical',
    ...TOOLS_LATER,
    minimumVcpu: 2,
    minimumMemoryMiB: 4096,
    minimumBytes: 40 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 6144,
    usualBytes: 60 * GIB,
    loadUnit: 'users',
    usualLoad: 500,
    loadStep: 1000,
    stepMilliVcpu: 1000,
    stepMemoryMiB: 2048,
    apart: true,
    startSeconds: 420,
  },
  {
    name: 'NT-family server',
    family: 'NT family',
    display: 'graphical',
    ...TOOLS_LATER,
    minimumVcpu: 1,
    minimumMemoryMiB: 2048,
    minimumBytes: 32 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 6144,
    usualBytes: 60 * GIB,
    loadUnit: 'users',
    usualLoad: 25,
    loadStep: 25,
    stepMilliVcpu: 1000,
    stepMemoryMiB: 2048,
    startSeconds: 180,
  },
  {
    name: 'desktop',
    family: 'Linux',
    display: 'graphical',
    minimumMemoryMiB: 1024,
    minimumBytes: 20 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 4096,
    usualBytes: 40 * GIB,
  },
  {
    name: 'backup server',
    family: 'Linux',
    minimumVcpu: 2,
    minimumMemoryMiB: 4096,
    minimumBytes: 32 * GIB,
    usualVcpu: 2,
    usualMemoryMiB: 4096,
    usualBytes: 32 * GIB,
    loadUnit: 'GB kept',
    usualLoad: 0,
    loadStep: 1000,
    stepMilliVcpu: 250,
    stepMemoryMiB: 512,
    stepDataBytes: 1200 * GB,
  },
  {
    name: 'router',
    family: 'appliance',
    paravirtualDisk: false,
    paravirtualNetwork: true,
    minimumMemoryMiB: 512,
    minimumBytes: 0,
    usualVcpu: 1,
    usualMemoryMiB: 1024,
    usualBytes: 0,
    adapters: 2,
    forwards: true,
    startSeconds: 30,
  },
  {
    name: 'nested hypervisor',
    family: 'other',
    paravirtualDisk: true,
    paravirtualNetwork: true,
    minimumVcpu: 2,
    minimumMemoryMiB: 8192,
    minimumBytes: 32 * GIB,
    usualVcpu: 4,
    usualMemoryMiB: 16_384,
    usualBytes: 100 * GIB,
    adapters: 4,
    nested: true,
    startSeconds: 300,
  },
];

export function draftUsualProfiles(fleet: Fleet, draft: Draft): string[] {
  const held = new Set([...fleet.all('profile')].map((profile) => profile.name.toLowerCase()));
  const missing = USUAL_PROFILES.filter((profile) => !held.has(profile.name!.toLowerCase()));
  for (const profile of missing) draft.create('profile', profile);
  return missing.map((profile) => profile.name!);
}

/** Adds the usual roles that the record does not have: for records begun before there were any. */
export interface AddUsualProfiles extends ChangeBase {
  type: 'profile.add-usual';
}

export const addUsualProfiles: Decider<AddUsualProfiles> = (fleet, _change, edge) => {
  const draft = draftOf(fleet, edge);
  const added = draftUsualProfiles(fleet, draft);
  if (added.length === 0)
    return refuse({ code: 'all-there', sentence: 'Every usual role is in the record already.' });
  return { draft, title: `added the roles ${added.join(', ')}`, subjects: [] };
};
