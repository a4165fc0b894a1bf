/**
 * Whether a guest can run on a host's processors: architecture, psABI level, the model it sees, virtualisation passed
 * through. Asked of every placing and every move. What nobody has looked at is said to be unknown.
 */
import { flagSet, hostLevel } from '../host/index.js';
import type { Row } from '../record/index.js';

/** How it comes there: made anew, started after it was off, or moved while it runs. */
export type Arrival = 'new' | 'stopped' | 'running';

export interface ProcessorPoint {
  name: 'architecture' | 'level' | 'processor model' | 'nested virtualisation';
  /** Null: nobody knows. */
  fits: boolean | null;
  sentence: string;
  remedy?: string;
  /** It deserves a caution, but does not stand in the way. */
  caution?: boolean;
  /** No written reason goes past it. */
  never?: boolean;
}

/** What of a guest its processors matter to. */
export type Seen = Pick<Row<'guest'>, 'name' | 'processorMode' | 'nestedVirtualisation'>;

type Host = Row<'host'>;

/** Points that can be asked; a guest that asks for nothing special and comes from nowhere has none. */
export function processorFit(
  guest: Seen,
  from: Host | null,
  to: Host,
  arrival: Arrival,
): ProcessorPoint[] {
  return [
    ...(from ? [architecture(guest, from, to)] : []),
    ...level(guest, from, to, arrival),
    ...(from && arrival === 'running' ? model(guest, from, to) : []),
    ...(guest.nestedVirtualisation ? [nested(guest, to)] : []),
  ];
}

/** What of a host says who starts there. */
export const RUNS = ['architecture', 'flags', 'statedLevel', 'virtualisation'] as const;

/** Whether it starts there after it was off, with what is known: for restarts after a failure. */
export function startsOn(
  guest: Pick<Seen, 'processorMode' | 'nestedVirtualisation'>,
  from: Pick<Host, 'architecture'>,
  to: Pick<Host, (typeof RUNS)[number]>,
): boolean {
  return (
    from.architecture === to.architecture &&
    hasLevel(to, statedLevel(guest)) &&
    (!guest.nestedVirtualisation || to.virtualisation === 'on')
  );
}

function architecture({ name }: Seen, from: Host, to: Host): ProcessorPoint {
  const fits = from.architecture === to.architecture;
  return {
    name: 'architecture',
    fits,
    sentence: fits
      ? `Both are ${to.architecture}.`
      : `${name} is made for ${from.architecture}, as ${from.name} is; ${to.name} is ${to.architecture}: it cannot run there.`,
    remedy: fits ? undefined : 'Build it anew for that architecture, and bring its data over.',
    never: !fits,
  };
}

/** The level that a guest is told to see; null where it sees its host's own processor, or nobody has said. */
export const statedLevel = ({ processorMode }: Pick<Seen, 'processorMode'>): number | null =>
  STATED[processorMode] ?? null;
const STATED: Readonly<Record<string, number>> = { v1: 1, v2: 2, v3: 3, v4: 4 };

const hasLevel = (host: Parameters<typeof hostLevel>[0], wanted: number | null): boolean =>
  wanted === null || (hostLevel(host).level ?? -1) >= wanted;

const levelWord = (level: number): string => (level === 0 ? 'less than v1' : `v${level}`);

function level(guest: Seen, from: Host | null, to: Host, arrival: Arrival): ProcessorPoint[] {
  const stated = statedLevel(guest);
  const x86 = to.architecture === 'x86-64' && (from === null || from.architecture === 'x86-64');
  if (!x86 || (stated === null && from === null)) return [];
  const point = { name: 'level' as const };
  const wanted = stated ?? hostLevel(from!).level;
  const { level: has } = hostLevel(to);
  const sees =
    stated === null
      ? `${guest.name} may use all of ${from!.name}, level ${wanted === null ? 'unknown' : levelWord(wanted)}`
      : `${guest.name} sees level v${stated}`;
  if (wanted === null) {
    return [
      {
        ...point,
        fits: null,
        sentence: `The level of ${from!.name}, whose processor ${guest.name} may use, is not known.`,
        remedy: `Take in the facts of ${from!.name}, or state its level.`,
      },
    ];
  }
  if (has === null) {
    return [
      {
        ...point,
        fits: stated === null || arrival === 'stopped' ? null : false,
        sentence: `${sees}; the level of ${to.name} is not known.`,
        remedy: `Take in the facts of ${to.name}, or state its level.`,
      },
    ];
  }
  if (has >= wanted) {
    return [{ ...point, fits: true, sentence: `${sees}; ${to.name} has ${levelWord(has)}.` }];
  }
  const off = arrival === 'stopped';
  return [
    {
      ...point,
      fits: false,
      caution: off,
      sentence: off
        ? `${sees}; ${to.name} has ${levelWord(has)}: what was built for ${levelWord(wanted)} inside of it ends with an illegal instruction.`
        : `${sees}; ${to.name} has ${levelWord(has)}: it dies with an illegal instruction, or does not start.`,
      remedy: off
        ? `${stated === null ? '' : `Let it see v${Math.max(1, has)} at most before it starts there, and `}${stated === null ? 'Try' : 'try'} its programs after the first start.`
        : `Choose a host of level ${levelWord(wanted)}${arrival === 'running' ? ', or move it stopped' : ''}.`,
    },
  ];
}

/** Only a running guest is tied to the model: after a start it takes the one that is there. */
function model(guest: Seen, from: Host, to: Host): ProcessorPoint[] {
  if (statedLevel(guest) !== null || from.architecture !== to.architecture) return [];
  const point = { name: 'processor model' as const };
  const [had, has] = [flagSet(from.flags), flagSet(to.flags)];
  const missing = had.size > 0 && has.size > 0 ? [...had].filter((flag) => !has.has(flag)) : null;
  if (missing?.length === 0) {
    return [{ ...point, fits: true, sentence: `${to.name} has every flag of ${from.name}.` }];
  }
  const alike = from.processorModel !== '' && from.processorModel === to.processorModel;
  if (missing === null && alike) {
    return [{ ...point, fits: true, sentence: `Both have a ${to.processorModel}.` }];
  }
  const known = missing !== null || (from.processorModel !== '' && to.processorModel !== '');
  const differs =
    missing !== null
      ? `${to.name} lacks ${missing.slice(0, 6).join(', ')}${missing.length > 6 ? ` and ${missing.length - 6} more flags` : ''} of ${from.name}`
      : known
        ? `${from.name} has a ${from.processorModel}, ${to.name} a ${to.processorModel}`
        : `the processors of ${from.name} and ${to.name} are not both known`;
  const own = guest.processorMode === 'host';
  return [
    {
      ...point,
      fits: own && known ? false : null,
      sentence: own
        ? `${guest.name} sees the processor of ${from.name} itself; ${differs}.`
        : `Which processor ${guest.name} sees is not recorded; ${differs}.`,
      remedy: own
        ? 'Move it stopped, or let it see a level that both have, which takes a restart.'
        : 'Record which processor it sees.',
    },
  ];
}

function nested({ name }: Seen, to: Host): ProcessorPoint {
  const state = to.virtualisation;
  return {
    name: 'nested virtualisation',
    fits: state === 'unknown' ? null : state === 'on',
    sentence:
      state === 'on'
        ? `${to.name} can pass virtualisation through to ${name}.`
        : state === 'unknown'
          ? `${name} runs guests of its own; whether ${to.name} can pass virtualisation through is not known.`
          : `${name} runs guests of its own; virtualisation of ${to.name} is ${state}.`,
    remedy:
      state === 'on'
        ? undefined
        : `Look into the firmware set-up of ${to.name}, and record what it says.`,
  };
}
