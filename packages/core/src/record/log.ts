/** An entry of the log: one decided change with who, when and why. Entries are only ever added. */
import type { Subject } from './decision.js';
import type { Patch, Values } from './patch.js';
import { toShape2 } from './shape-2.js';
import { toShape3 } from './shape-3.js';
import { toShape4 } from './shape-4.js';

/** Number of the shape in which entries are written today; older ones are brought up by `upcast`. */
export const SHAPE = 4;

export interface LogEntry {
  revision: number;
  shape: number;
  /** Server time, UTC. */
  at: string;
  /** When it happened in the world, if said. */
  happenedAt: string | null;
  actorId: string;
  actorName: string;
  title: string;
  reason: string;
  override: string;
  change: Values & { type: string };
  subjects: Subject[];
  patches: Patch[];
}

type Upcaster = (patches: Patch[]) => Patch[];

/** From shape n to n + 1, one pure function each. */
const UPCASTERS: Readonly<Record<number, Upcaster>> = { 1: toShape2, 2: toShape3, 3: toShape4 };

/** Patches of an entry in today's shape. @throws Error for a shape that this version does not know */
export function upcast(entry: LogEntry): Patch[] {
  if (entry.shape > SHAPE)
    throw new Error(
      `log entry ${entry.revision} has shape ${entry.shape}, this version knows ${SHAPE}`,
    );
  let patches = entry.patches;
  for (let shape = entry.shape; shape < SHAPE; shape += 1) {
    const step = UPCASTERS[shape];
    if (!step) throw new Error(`no way from log shape ${shape} to ${shape + 1}`);
    patches = step(patches);
  }
  return patches;
}
