/** How a machine's firmware and its disk controller are set. */
import { choice, initially, text } from '../field.js';

export const firmware = {
  controller: text(),
  controllerMode: initially(
    choice('unknown', 'AHCI', 'IDE', 'RAID', 'pass-through', 'NVMe'),
    'unknown',
  ),
  bootMode: initially(choice('unknown', 'UEFI', 'legacy'), 'unknown'),
  secureBoot: initially(choice('unknown', 'on', 'off'), 'unknown'),
};
