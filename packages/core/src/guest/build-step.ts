/** A step of building a guest, and all of them. */
import type { Fleet, Row } from '../record/index.js';
import type { Drives } from './devices.js';

export interface BuildStep {
  key: string;
  text: string;
  /** To be typed or compared, in letters that cannot be confused. Null: not decided yet. */
  value?: string | null;
  caution?: string;
  /** A first check: it can fail. */
  check?: boolean;
}

export interface GuestBuild {
  guest: string;
  host: string;
  platform: string;
  /** By a medium, from the network, from an image or a copy: what the middle part is about. */
  way: 'full medium' | 'network install' | 'copy' | 'no medium';
  sections: { title: string; steps: BuildStep[] }[];
  /** Values that the record does not hold yet. */
  undecided: string[];
}

/** What its steps are made of. */
export interface Building {
  fleet: Fleet;
  guest: Row<'guest'>;
  host: Row<'host'>;
  platform: Row<'platform'>;
  drives: Drives;
  volumes: Row<'volume'>[];
  adapters: Row<'adapter'>[];
  media: Row<'medium'>[];
}
