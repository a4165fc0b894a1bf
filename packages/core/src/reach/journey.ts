/** How an echo went: hop by hop, and what it failed of. */
import type { Address, Prefix } from '../address/index.js';
import type { Machine, Iface, Service } from './machine.js';

export interface Hop {
  machine: Machine;
  /** Interface it came in by; null at the beginning. */
  in: Iface | null;
  /** Interface it went out by; null at the end. */
  out: Iface | null;
  /** Who was asked for on the segment. */
  next: Address | null;
  /** The packet left with this source address instead of its own. */
  translatedTo: Address | null;
  /** It went on for this address and port instead of those that it was sent to. */
  forwardedTo: (Service & { to: Address }) | null;
}

export type Failure =
  | { code: 'sender-off' }
  | { code: 'no-address'; family: 4 | 6 }
  | { code: 'no-route'; machine: Machine; to: Address }
  | { code: 'not-joined'; machine: Machine; iface: Iface }
  | { code: 'nobody-answers'; machine: Machine; iface: Iface; next: Address; gateway: boolean }
  | { code: 'does-not-forward'; machine: Machine; in: Iface; to: Address }
  | { code: 'not-forwarded-inside'; machine: Machine; in: Iface; out: Iface }
  | { code: 'broadcast-here'; machine: Machine; to: Address; block: Prefix }
  | { code: 'strong-host'; machine: Machine; in: Iface; to: Address }
  | { code: 'reverse-path'; machine: Machine; in: Iface; from: Address; way: Iface | null }
  | { code: 'blackholed'; machine: Machine; to: Address; block: Prefix }
  | { code: 'not-carried-outside'; to: Address }
  | { code: 'answers-as-another'; machine: Machine; as: Address; expected: Address }
  | { code: 'loop'; machine: Machine };

export interface Journey {
  hops: Hop[];
  /** Machine at which the packet arrived. */
  arrived: Machine | null;
  failure: Failure | null;
  /** Several machines answered for one address on the way. */
  contested: { segment: number; address: Address; machines: Machine[] } | null;
}

export type Verdict = 'yes' | 'no' | 'somebody else answered' | 'one way' | 'refused';

export interface Echo {
  verdict: Verdict;
  request: Journey;
  reply: Journey | null;
  /** Machine that answered, where one did. */
  answeredBy: Machine | null;
}
