import { MAC_BLOCK, parseMacBlock, repetitionFigure } from '../address/index.js';
import type { Figure } from '../figure/index.js';
import type { Fleet } from '../record/index.js';

/** First octets of MACs generated for guests of a host: those of its site, else any locally administered ones. */
export function macBlockAt(fleet: Fleet, hostId: string): string {
  const block = fleet.get('site', fleet.get('host', hostId)?.siteId)?.macBlock;
  const read = block ? parseMacBlock(block) : undefined;
  return read?.ok ? read.value : MAC_BLOCK;
}

/** How many MACs of a block are assigned, and the chance that separate records repeat one. */
export function macBlockUse(fleet: Fleet, block: string): { assigned: number; repetition: Figure } {
  let assigned = 0;
  for (const adapter of fleet.all('adapter'))
    if (adapter.macAssigned && adapter.mac?.startsWith(block)) assigned += 1;
  return { assigned, repetition: repetitionFigure(block.split(':').length, assigned) };
}
