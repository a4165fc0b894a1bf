/** All reads by name: the compiler asks for one to each path of the contract. */
import { GROWTH_READS } from './growth.js';
import { GUEST_READS } from './guests.js';
import { HOST_READS } from './hosts.js';
import { LOG_READS } from './log.js';
import { MEASURED_READS } from './measured.js';
import { MOVING_READS } from './moving.js';
import { NAME_READS } from './names.js';
import { NETWORK_READS } from './networks.js';
import { PLAN_READS } from './plans.js';
import { PLACE_READS } from './places.js';
import { REARRANGE_READS } from './rearrange.js';
import type { Reads } from './read.js';
import { WHOLE_FLEET_READS } from './whole-fleet.js';
import { WIRING_READS } from './wiring.js';

export const EVERY_READ: Reads = {
  ...WHOLE_FLEET_READS,
  ...HOST_READS,
  ...PLACE_READS,
  ...NETWORK_READS,
  ...NAME_READS,
  ...WIRING_READS,
  ...GUEST_READS,
  ...MEASURED_READS,
  ...MOVING_READS,
  ...GROWTH_READS,
  ...PLAN_READS,
  ...REARRANGE_READS,
  ...LOG_READS,
};
