import { counted, formatBoth, parseBytes, type Bytes } from '../quantity/index.js';
import { ARRAY_LEVELS } from '../record/index.js';
import { arrayFault, survives, usableBytes, type ArrayLevel } from './array.js';

/** Most disks in one question. */
const MOST = 1024;

/** Reads "8 x 4 TB, 480GB": counts and sizes, separated by commas. */
export function readDisks(text: string): { disks: Bytes[]; fault: string | null } {
  const disks: Bytes[] = [];
  for (const part of text
    .split(/[,;+]/)
    .map((found) => found.trim())
    .filter(Boolean)) {
    const match = /^(?:(\d{1,4})\s*[x×*]\s*)?(.+)$/i.exec(part)!;
    const size = parseBytes(match[2]!);
    if (!size.ok) return { disks, fault: size.sentence };
    if (disks.length + Number(match[1] ?? 1) > MOST)
      return { disks, fault: `At most ${MOST} disks.` };
    disks.push(...Array.from({ length: Number(match[1] ?? 1) }, () => size.value));
  }
  return { disks, fault: null };
}

/**
 * A quick question of the search field, such as "raid 6 8x4tb", answered in a sentence; null if it is none.
 * @example arrayQuestion('raid 6 8x4tb').sentence // 'Level 6 of 8 disks: 24 TB = 21.8 TiB usable, survives 2'
 */
export function arrayQuestion(text: string): { disks: Bytes[]; sentence: string } | null {
  const match = /^(?:raid|array|level)[\s-]*(\d{1,2})\s+(.+)$/i.exec(text.trim());
  const level = ARRAY_LEVELS.find((found) => found === match?.[1]) as ArrayLevel | undefined;
  if (!match || !level) return null;
  const { disks, fault } = readDisks(match[2]!);
  if (fault || disks.length === 0) return null;
  const wrong = arrayFault(level, disks, 2);
  if (wrong) return { disks, sentence: wrong };
  const { worst, best } = survives(level, disks.length, 2);
  return {
    disks,
    sentence: `Level ${level} of ${counted(disks.length, 'disk')}: ${formatBoth(usableBytes(level, disks, 2))} usable, survives ${worst}${best > worst ? ` to ${best}` : ''}`,
  };
}
