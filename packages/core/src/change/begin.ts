import { draftUsualProfiles } from '../guest/index.js';
import { draftOf, refuse, type ChangeBase, type Decider } from '../record/index.js';

/** Begins an empty record: one routing domain, three generic platforms and the usual roles, so that a first host can be recorded. */
export interface BeginRecord extends ChangeBase {
  type: 'record.begin';
}

/** Invented, generic; every coefficient is a property that can be altered. Common practice, no source. */
const PLATFORMS = [
  {
    name: 'Generic bare-metal 1',
    bareMetal: true,
    keepsMiB: 2048,
    keepsPercent: 5,
    overheadMiB: 128,
    overheadPerVcpuMiB: 8,
    overheadPercent: 1,
    videoMiB: 16,
  },
  {
    name: 'Generic bare-metal 2, lean',
    bareMetal: true,
    keepsMiB: 1024,
    keepsPercent: 3,
    overheadMiB: 64,
    overheadPerVcpuMiB: 4,
    overheadPercent: 1,
    videoMiB: 16,
  },
  {
    name: 'Generic hosted',
    bareMetal: false,
    keepsMiB: 4096,
    keepsPercent: 10,
    overheadMiB: 192,
    overheadPerVcpuMiB: 12,
    overheadPercent: 2,
    videoMiB: 64,
  },
];

export const beginRecord: Decider<BeginRecord> = (fleet, _change, edge) => {
  if (fleet.revision > 0)
    return refuse({ code: 'begun', sentence: 'This record has begun already.' });
  const draft = draftOf(fleet, edge);
  draft.create('routingDomain', { name: 'whole place' });
  for (const platform of PLATFORMS) draft.create('platform', platform);
  draftUsualProfiles(fleet, draft);
  return { draft, title: 'began the record', subjects: [] };
};
