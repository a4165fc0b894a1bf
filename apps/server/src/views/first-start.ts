/** First-start files as text: YAML, with the line that the convention wants at the head of user-data. */
import type { FirstStartView } from '@insel/contract';
import { firstStart, identityScript, type Fleet } from '@insel/core';
import { stringify } from 'yaml';

export function firstStartView(fleet: Fleet, guestId: string): FirstStartView {
  const { userData, metaData, networkConfig, sets, left } = firstStart(fleet, guestId);
  return {
    files: [
      { name: 'user-data', text: `#cloud-config\n${stringify(userData)}` },
      { name: 'meta-data', text: stringify(metaData) },
      { name: 'network-config', text: stringify(networkConfig) },
    ],
    script: identityScript(fleet, guestId),
    sets,
    left,
  };
}
