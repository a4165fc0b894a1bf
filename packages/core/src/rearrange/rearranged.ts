/** What a search for moves comes to, in the words of the record. */
import type { Row } from '../record/index.js';

export interface RearrangedMove {
  guestId: string;
  name: string;
  state: Row<'guest'>['state'];
  fromHostId: string;
  from: string;
  toHostId: string;
  to: string;
  /** Pool of the target that its own volumes go to; null: they stay where they are. */
  toPoolId: string | null;
  toPool: string | null;
  running: boolean;
  /** Bytes that travel, and the time they are expected to take; null where nobody can say. */
  bytes: number;
  seconds: number | null;
  /** Why it moves: it leaves, it makes room for another, or what it gains. */
  why: string;
}

export interface RearrangedHost {
  id: string;
  name: string;
  before: { guests: number; memoryPercent: number; vcpuPercent: number };
  after: { guests: number; memoryPercent: number; vcpuPercent: number };
  /** Nothing stands on it afterwards. */
  empty: boolean;
  /** What is used in its fullest hour, in per cent; null: it was not asked by use. */
  used: { before: number; after: number } | null;
}

export interface Rearranged {
  /** The answer in a sentence, and what is proved of it. */
  headline: string;
  proof: string;
  /** What the answer rests on that the record does not say; empty: nothing. */
  assumes: string;
  moves: RearrangedMove[];
  stuck: { guestId: string; name: string; why: string; mend: string | null }[];
  hosts: RearrangedHost[];
  bytes: number;
  /** Of all moves one after another; null where one of them is not known. */
  seconds: number | null;
  /** Hosts that may fail without a guest left down, of those that carry something. */
  tolerance: { before: number; beforeOf: number; after: number; afterOf: number; lost: string[] };
  /** Highest draw of hosts that nothing stands on any more; null: of one of them it is not recorded. */
  wattsFreed: number | null;
}
