import type { Fleet } from './fleet.js';
import type { Kind } from './kinds/index.js';
import { refuse, type Refusal } from './refusal.js';

/** Whether another row of the kind has that name, whatever its letters' case. @param word the kind as people call it */
export function nameTaken(
  fleet: Fleet,
  kind: Kind,
  word: string,
  name: string,
  but = '',
): Refusal | undefined {
  const wanted = name.trim().toLowerCase();
  for (const row of fleet.all(kind)) {
    if (row.id === but || !('name' in row) || String(row.name).toLowerCase() !== wanted) continue;
    const sentence = `There is a ${word} named ${name.trim()} already.`;
    return refuse({ code: 'name-taken', field: 'name', sentence });
  }
  return undefined;
}
