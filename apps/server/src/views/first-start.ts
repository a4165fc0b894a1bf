/** First-start files as text: YAML, with the line that the convention wants at the head of user-data. */
import type { FirstStartView } from '@insel/contract';
import { firstStart, identityScript, type Fleet, type Row } from '@insel/core';
import { diffLines } from 'diff';
import { stringify } from 'yaml';

type File = Pick<FirstStartView['files'][number], 'name' | 'text'>;

/** @param siblingId the guest whose files these are compared with; left out: another clone of the same origin */
export function firstStartView(
  fleet: Fleet,
  guestId: string,
  siblingId = siblingOf(fleet, guestId)?.id,
): FirstStartView {
  const { sets, left } = firstStart(fleet, guestId);
  const sibling = fleet.get('guest', siblingId ?? null);
  const others = sibling ? filesOf(fleet, sibling.id) : [];
  return {
    files: filesOf(fleet, guestId).map((file, i) => ({
      ...file,
      differs: others[i] ? differingLines(others[i].text, file.text) : [],
    })),
    sibling: sibling ? { id: sibling.id, name: sibling.name } : null,
    script: identityScript(fleet, guestId),
    sets,
    left,
  };
}

export function filesOf(fleet: Fleet, guestId: string): File[] {
  const { userData, metaData, networkConfig, signInKeys } = firstStart(fleet, guestId);
  const keys = signInKeys.length
    ? `# Before the first start, the public keys of these go here:\n# ssh_authorized_keys:\n${signInKeys.map((name) => `#   - ${name}\n`).join('')}`
    : '';
  return [
    { name: 'user-data', text: `#cloud-config\n${stringify(userData)}${keys}` },
    { name: 'meta-data', text: stringify(metaData) },
    { name: 'network-config', text: stringify(networkConfig) },
  ];
}

/** Numbers, from 0, of the lines of a text that its sibling does not have there. */
function differingLines(sibling: string, text: string): number[] {
  let line = 0;
  return diffLines(sibling, text)
    .filter(({ removed }) => !removed)
    .flatMap(({ added, count }) => {
      const from = line;
      line += count;
      return added ? Array.from({ length: count }, (_, i) => from + i) : [];
    });
}

/** The clone of the same origin whose name is the first of the others. */
function siblingOf(fleet: Fleet, guestId: string): Row<'guest'> | undefined {
  const [clone] = fleet.referring('clone', 'guestId', guestId);
  if (!clone) return undefined;
  return fleet
    .referring('clone', 'originId', clone.originId)
    .filter((other) => other.guestId !== guestId)
    .map((other) => fleet.need('guest', other.guestId))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))[0];
}
