/** Asks the record who reaches whom, and says the answer as a person would: verdict, sentence, path, first failure, the smallest mend. */
import { formatAddress, type Family } from '../address/index.js';
import type { Change } from '../change/index.js';
import {
  isRefusal,
  type Expectation,
  type Fleet,
  type Patch,
  type Refusal,
} from '../record/index.js';
import { explain } from './explain.js';
import { machineInfo, type MachineInfo } from './machine-parts.js';
import type { Explained } from './mending.js';
import { ping } from './ping.js';
import { type Echo, type Journey, type Verdict } from './journey.js';
import { edgesBetween, worldOf, type RecordTopology } from './record-topology.js';
import { restsOn, type RestsOn } from './rests-on.js';
import type { Service } from './machine.js';
import { waysIn, type WayIn } from './ways-in.js';
import { type End, findEnds } from './ask-ends.js';

export interface ReachQuestion {
  from: { id: string };
  to: End;
  family?: Family;
  /** A connection to one of its ports; left out: an echo. */
  service?: Service;
}

export interface HopView {
  machine: MachineInfo;
  in: string | null;
  out: string | null;
  /** Address asked for on the segment, as text. */
  next: string | null;
  translatedTo: string | null;
  /** Address and port that it goes on for, where it came for a port that leads on. */
  forwardedTo: string | null;
  /** Cables and switches between this machine and the next. */
  over: string[];
}

export interface ReachAnswer {
  verdict: Verdict;
  from: MachineInfo;
  to: { name: string; ip: string };
  sentence: string;
  /** What the answer rests on. */
  notes: string[];
  request: HopView[];
  reply: HopView[];
  /** The first thing that fails, in a sentence. */
  failure: {
    code: string;
    sentence: string;
    at: { kind: string; id: string; name: string } | null;
  } | null;
  /** Ports of others that lead there. */
  waysIn: WayIn[];
  mend: { label: string; change: Change; expects: readonly Expectation[] } | null;
}

/** A change tried: what would come of it, and what he expects who makes it. */
export type TryChange = (
  fleet: Fleet,
  change: Change,
) => { patches: readonly Patch[]; expects: readonly Expectation[] } | Refusal;

const NOBODY = 'nobody in the record';
const PERMITS = 'Addressing and routing permit it; filters are not recorded.';

/** @param decide tries a mend before it is offered; without it none is */
export function askReach(
  fleet: Fleet,
  question: ReachQuestion,
  decide?: TryChange,
  world: RecordTopology = worldOf(fleet),
): ReachAnswer | { sentence: string } {
  const ends = findEnds(world, question);
  if ('sentence' in ends) return ends;
  const { sender, target, to } = ends;
  const service = question.service ?? null;
  const echo = ping(world.topology, sender, to, target, service);
  const from = machineInfo(sender)!;
  const meant = target ?? world.topology.ownersOf(to)[0] ?? null;
  const name = meant ? machineInfo(meant)!.name : NOBODY;
  const failed = echo.request.failure ?? echo.reply?.failure ?? null;
  const explained = explain(fleet, world, echo, to, target);
  const ip = formatAddress(to);
  return {
    verdict: echo.verdict,
    from,
    to: { name, ip },
    sentence: sentenceOf(world, echo, from.name, name, ip, explained, service),
    notes: [
      ...notesOf(world, echo, failed !== null),
      ...(echo.verdict === 'yes'
        ? restsOn(world.topology, sender, to, target, service).map((found) => assumption(found))
        : []),
    ],
    request: hopsOf(world, echo.request),
    reply: echo.reply ? hopsOf(world, echo.reply) : [],
    failure: explained && { code: explained.code, sentence: explained.sentence, at: explained.at },
    waysIn: meant && !meant.outside ? waysIn(fleet, world, sender, meant) : [],
    mend: explained && decide ? smallestMend(fleet, question, explained, decide) : null,
  };
}

function sentenceOf(
  world: RecordTopology,
  echo: Echo,
  from: string,
  to: string,
  ip: string,
  explained: Explained | null,
  service: Service | null,
): string {
  const because = explained ? ` ${explained.sentence}` : '';
  const port = service ? `, port ${service.port}/${service.protocol}` : '';
  const whom = (to === NOBODY ? ip : to) + port;
  switch (echo.verdict) {
    case 'yes': {
      const through = echo.request.hops.slice(1, -1).map((hop) => machineInfo(hop.machine)!.name);
      const led = echo.request.hops.findLast(({ forwardedTo }) => forwardedTo)?.forwardedTo;
      const whereto = led
        ? `, which leads on to ${machineInfo(echo.answeredBy!)!.name}, port ${led.port}`
        : '';
      return `Yes: ${from} reaches ${whom}${whereto}${through.length ? ` through ${[...new Set(through)].join(', ')}` : ', directly'}.`;
    }
    case 'one way':
      return `One way: the request of ${from} arrives at ${whom}, the reply is lost.${because}`;
    case 'somebody else answered':
      return `Not for sure: somebody else answers for ${ip}.${because}`;
    case 'refused':
      return `Refused: ${from} does not reach ${whom}.${because}`;
    case 'no':
      return `No: ${from} does not reach ${whom}.${because}`;
  }
}

function notesOf(world: RecordTopology, echo: Echo, failed: boolean): string[] {
  const notes = failed ? [] : [PERMITS];
  const free = unnamedUplink(world, echo);
  if (free)
    notes.push(
      `Rests on ${free} translating by whichever uplink it leaves; nobody recorded by which.`,
    );
  const overs = [echo.request, echo.reply]
    .flatMap((journey) => (journey ? hopsOf(world, journey) : []))
    .flatMap((hop) => hop.over);
  if (overs.some((text) => text.includes('not recorded') || text.includes('taken to be joined')))
    notes.push(
      'Where cabling is not recorded, a network is taken to reach everything that carries it.',
    );
  return notes;
}

/** Who translates and has more than one uplink, of which nobody said by which. */
const unnamedUplink = (world: RecordTopology, echo: Echo): string | null => {
  const hop = echo.request.hops.find(
    ({ machine, in: came, translatedTo }) =>
      translatedTo &&
      came?.side === 'nat' &&
      !came.translatedBy &&
      machine.ifaces.filter(({ side }) => side === 'uplink' || side === 'plain').length > 1,
  );
  return hop ? machineInfo(hop.machine)!.name : null;
};

/** What is taken for true of a machine of which nobody recorded it. */
const assumption = ({ on, machine: { name } }: RestsOn): string =>
  on === 'strongHost'
    ? `Rests on ${name} answering for each of its addresses by any adapter, as Linux does by itself; nobody recorded how it is set.`
    : `Rests on ${name} not filtering by reverse path: it would answer another way; nobody recorded how it is set.`;

function hopsOf(world: RecordTopology, journey: Journey): HopView[] {
  return journey.hops.map((hop, i) => {
    const after = journey.hops[i + 1];
    const way = hop.out && after?.in ? edgesBetween(world.wiring, hop.out, after.in) : null;
    return {
      machine: machineInfo(hop.machine)!,
      in: hop.in?.name ?? null,
      out: hop.out?.name ?? null,
      next: hop.next && formatAddress(hop.next),
      translatedTo: hop.translatedTo && formatAddress(hop.translatedTo),
      forwardedTo:
        hop.forwardedTo && `${formatAddress(hop.forwardedTo.to)}, port ${hop.forwardedTo.port}`,
      over: (way ?? []).map((edge) => edge.label).filter(Boolean),
    };
  });
}

const MOST_TRIED = 12;

/** The first of the candidate mends, smallest first, with which the answer becomes yes. */
function smallestMend(
  fleet: Fleet,
  question: ReachQuestion,
  { mends }: Explained,
  decide: TryChange,
): ReachAnswer['mend'] {
  for (const mend of mends.slice(0, MOST_TRIED)) {
    const decision = decide(fleet, mend.change);
    if (isRefusal(decision)) continue;
    const world = worldOf(fleet.overlay(decision.patches));
    const ends = findEnds(world, question);
    const better =
      !('sentence' in ends) &&
      ping(world.topology, ends.sender, ends.to, ends.target, question.service).verdict === 'yes';
    if (better) return { ...mend, expects: decision.expects };
  }
  return null;
}
