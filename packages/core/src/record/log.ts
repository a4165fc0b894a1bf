/** An entry of the log: one decided change with who, when and why. Entries are only ever added. */
import type { Subject } from './decision.js';
import { gainedWith, gaining } from './gaining.js';
import type { Patch, Values } from './patch.js';
import { toShape2 } from './shape-2.js';
import { toShape3 } from './shape-3.js';
import { toShape4 } from './shape-4.js';
import { toShape5 } from './shape-5.js';

/** Number of the shape in which entries are written today; older ones are brought up by `upcast`. */
export const SHAPE = 15;

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
  /** Type, shape and input; until shape 5 flat. Read by `changeOf`. */
  change: Values & { type: string };
  subjects: Subject[];
  patches: Patch[];
}

type Upcaster = (patches: Patch[]) => Patch[];

/** Shape 6: a change is kept with its input apart, see `changeOf`; patches are as they were. */
const sameAs: Upcaster = (patches) => patches;

/** From shape n to n + 1, where more happened than that kinds gained fields. */
const UPCASTERS: Readonly<Record<number, Upcaster>> = {
  1: toShape2,
  2: toShape3,
  3: toShape4,
  4: toShape5,
  5: sameAs,
};

/** Patches of an entry in today's shape. @throws Error for a shape that this version does not know */
export function upcast(entry: LogEntry): Patch[] {
  if (entry.shape > SHAPE)
    throw new Error(
      `log entry ${entry.revision} has shape ${entry.shape}, this version knows ${SHAPE}`,
    );
  let patches = entry.patches;
  for (let shape = entry.shape; shape < SHAPE; shape += 1) {
    patches = (UPCASTERS[shape] ?? gaining(gainedWith(shape + 1)))(patches);
  }
  return patches;
}
