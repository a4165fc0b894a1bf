import {
  MOVE_METHODS,
  SIGNS,
  type FoundTimes,
  type MoveSide,
  type Sign,
  type Timetable,
} from '@insel/core';
import {
  Apart,
  Clearable,
  Count,
  Day,
  Flag,
  Id,
  Ids,
  OneOf,
  Optional,
  Text,
  Time,
  Whole,
} from './rules.js';

/** A move that is being thought of. */
export class RouteQuery {
  @Id() guestId!: string;
  @Id() targetHostId!: string;
  /** Without it the volumes stay in their pools. */
  @Optional() @Id() targetPoolId?: string;
  @OneOf(['running', 'stopped']) how!: 'running' | 'stopped';
  /** Bits per second of the slowest link between the hosts. */
  @Count(1, Number.MAX_SAFE_INTEGER) linkBitsPerSecond!: number;
  /** Left out: the usual one. */
  @Optional() @OneOf(MOVE_METHODS) method?: (typeof MOVE_METHODS)[number];
  /** Bytes per second that the running guest writes. */
  @Optional() @Count(0, Number.MAX_SAFE_INTEGER) dirtyBytesPerSecond?: number;
}

export const PHYSICAL_MOVES = [
  'migration.plan-from-physical',
  'migration.plan-to-physical',
] as const;

/** A move off a computer or onto one that is being thought of: the change that would plan it. */
export class PhysicalRouteBody {
  @OneOf(PHYSICAL_MOVES) type!: (typeof PHYSICAL_MOVES)[number];
  @Apart() input!: object;
}

/** Computers to be seen together as guests. */
export class ConsolidationBody {
  @Ids(60) deviceIds!: string[];
  /** Hosts of this group only. */
  @Clearable() @Id() groupId?: string | null;
  @Whole(1, 168) windowHours!: number;
  @Count(1, Number.MAX_SAFE_INTEGER) linkBitsPerSecond!: number;
}

/** A change of platform that is being thought of. */
export class PlatformChangeQuery {
  @Id() fromPlatformId!: string;
  @Id() toPlatformId!: string;
  @Count(1, 168) windowHours!: number;
  /** Days from one window to the next. */
  @Count(1, 92) everyDays!: number;
  @Count(1, Number.MAX_SAFE_INTEGER) linkBitsPerSecond!: number;
  /** Left out: when the first licence of these hosts ends. */
  @Optional() @Day() until?: string;
}

/** A stretch of the timetable. */
export class TimetableQuery {
  /** Left out: three days before now. */
  @Optional() @Time() from?: string;
  @Optional() @Count(1, 92) days?: number;
  /** By which clock days begin: IANA name; left out: UTC. */
  @Optional() @Text(64) zone?: string;
}

/** Times for moves, to be found. */
export class FindTimesBody {
  /** Left out: from now on. */
  @Optional() @Time() from?: string;
  @Whole(1, 92) days!: number;
  /** Also those that have a time already. */
  @Flag() anew!: boolean;
  /** When somebody is there, such as "Mon, Tue 18:00-23:00"; empty: always. */
  @Text(300) hours!: string;
  /** By which clock that is meant: IANA name; left out: UTC. */
  @Optional() @Text(64) zone?: string;
  /** Fewer at once at a host than its link bears. */
  @Clearable() @Whole(1, 100) mostAtOnce?: number | null;
}

export interface FoundTimesView extends FoundTimes {
  /** Of the migrations, for the change that sets their times. */
  revisions: Record<string, number>;
}

export interface TimetableLane extends MoveSide {
  /** When its windows are open, in UTC; null: nobody said when. */
  open: { from: string; until: string }[] | null;
  /** What was said, in words. */
  said: string;
}

export interface TimetableView extends Timetable {
  from: string;
  until: string;
  now: string;
  /** Hosts, and computers that move or are moved to. */
  lanes: TimetableLane[];
  /** IANA name of the clock by which days begin. */
  zone: string;
  /** Clocks of the sites, and UTC. */
  zones: string[];
  /** Midnights by that clock, in UTC: two odd days of the year have 23 and 25 hours. */
  midnights: string[];
  /** Of the migrations, for what alters them. */
  revisions: Record<string, number>;
}

/** What somebody sees of a move that does not come up. */
export class TroubleQuery {
  @OneOf(SIGNS) sign!: Sign;
}

/** A past move with what was expected of it: how the estimates hold. */
export interface PastMove {
  id: string;
  guest: string;
  source: string;
  target: string;
  method: string;
  /** When it was switched over. */
  at: string;
  expectedSeconds: number;
  tookSeconds: number;
}

export interface CalibrationView {
  runs: PastMove[];
  /** Of those that had an estimate: how many fell into the range as it stands by the runs before each. */
  held: number;
  counted: number;
}
