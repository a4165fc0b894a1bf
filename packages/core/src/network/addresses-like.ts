import { canonical } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';

/** Addresses whose text holds a part, in all domains, at most `most`. An address in another notation is found by its canonical text. */
export function addressesLike(fleet: Fleet, part: string, most: number): Row<'address'>[] {
  const whole = canonical(part);
  const wanted = whole.ok ? whole.value : part.trim().toLowerCase();
  const found: Row<'address'>[] = [];
  for (const row of fleet.all('address')) {
    if (whole.ok ? row.ip === wanted : row.ip.includes(wanted)) found.push(row);
    if (found.length >= most) break;
  }
  return found;
}
