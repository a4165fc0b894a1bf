import { draftUsualProfiles } from '../guest/index.js';
import { change, draftOf, refuse, type DeciderOf } from '../record/index.js';

/** Begins an empty record: one routing domain, three generic platforms and the usual roles, so that a first host can be recorded. */
export const beginRecord = change({
  type: 'record.begin',
  title: 'Begin the record',
  role: 'administrator',
  carried: 'only afterwards',
  undoable: false,
  input: {},
});

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

export const decideBeginRecord: DeciderOf<typeof beginRecord> = (fleet, _input, context) => {
  if (fleet.revision > 0)
    return refuse({ code: 'begun', sentence: 'This record has begun already.' });
  const draft = draftOf(fleet, context);
  draft.create('routingDomain', { name: 'whole place' });
  for (const platform of PLATFORMS) draft.create('platform', platform);
  draftUsualProfiles(fleet, draft);
  return { draft, title: 'began the record', subjects: [] };
};
