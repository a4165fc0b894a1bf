/** The steps of a move to carry along: one self-contained page, for the network may be what is being worked on. */
import {
  decideBy,
  formatBoth,
  formatDuration,
  likelyCauses,
  METHODS,
  methodOf,
  MOVE_PHASES,
  endsOf,
  routeEstimate,
  routeOf,
  sideOf,
  SIGNS,
  type Fleet,
  type Row,
} from '@insel/core';
import { minute, type Page, type PageLine } from './sheet-page.js';

const BLOCKS: Record<Row<'moveStep'>['phase'], string> = {
  before: 'Before',
  copy: 'Copy',
  switch: 'Switch over',
  after: 'After',
};

export function runbookPage(fleet: Fleet, id: string): Page {
  const migration = fleet.need('migration', id);
  const guest = fleet.need('guest', migration.guestId);
  const [source, target] = [sideOf(fleet, migration, 'source'), sideOf(fleet, migration, 'target')];
  const steps = fleet
    .referring('moveStep', 'migrationId', id)
    .sort((a, b) => a.position - b.position);
  const where = { source: source.name, target: target.name, both: 'both', elsewhere: '' };
  return {
    title: `Move of ${guest.name}`,
    subtitle: `${source.name} → ${target.name}, ${migration.state}`,
    sections: [
      { title: 'What is moved', lines: factLines(fleet, migration) },
      ...MOVE_PHASES.flatMap((phase) => {
        const rows = steps.filter((step) => step.phase === phase);
        return rows.length === 0
          ? []
          : [
              {
                title: BLOCKS[phase],
                lines: rows.map((step): PageLine => ({
                  text: `${where[step.console] ? `At ${where[step.console]}: ` : ''}${step.title}`,
                  value: step.detail || undefined,
                  caution: step.destroys
                    ? `it destroys what lies there: ${step.destroys}. Read model, serial and size aloud first.`
                    : undefined,
                  done:
                    step.state === 'done' && step.at ? `${minute(step.at)}, ${step.by}` : undefined,
                })),
              },
            ];
      }),
      { title: 'When it does not come up', lines: troubleLines(fleet, id) },
    ],
  };
}

function factLines(fleet: Fleet, migration: Row<'migration'>): PageLine[] {
  const moves = fleet.referring('volumeMove', 'migrationId', migration.id);
  const route = routeOf(fleet, migration);
  const { total, totalRange } = routeEstimate(fleet, route);
  const decide = decideBy(fleet, migration);
  const adapters = fleet
    .referring('adapter', 'guestId', migration.guestId)
    .sort((a, b) => a.position - b.position);
  return [
    { text: 'Method', value: METHODS[methodOf(route)].words },
    ...(methodOf(route) === 'block image'
      ? [
          {
            text: 'Copying environment, sending side and receiving side',
            value:
              migration.copyFromIp || migration.copyToIp
                ? `${migration.copyFromIp ?? '________'} → ${migration.copyToIp ?? '________'}`
                : null,
          },
        ]
      : []),
    {
      text: 'Expected in all',
      value:
        total.value === null
          ? null
          : `${formatDuration(total.value)} (${formatDuration(totalRange[0])} to ${formatDuration(totalRange[1])})`,
    },
    {
      text: 'Window',
      value: migration.windowFrom
        ? `${minute(migration.windowFrom)} to ${migration.windowUntil ? minute(migration.windowUntil) : 'open'}`
        : null,
    },
    ...(decide
      ? [
          {
            text: 'Decide by',
            value: minute(decide.at),
            caution: 'after that it goes on, or overruns',
          },
        ]
      : []),
    ...moves.map((move) => {
      const { label, bytes } = fleet.need('volume', move.volumeId);
      const { from, to } = endsOf(fleet, move);
      return { text: `Volume ${label}`, value: `${formatBoth(bytes)}, ${from} → ${to}` };
    }),
    ...adapters.map((adapter, i) => ({
      text: `Adapter ${i + 1}`,
      value: [
        adapter.mac ?? 'MAC not recorded',
        fleet.get('network', adapter.networkId)?.name ?? 'no network',
        ...fleet.referring('address', 'adapterId', adapter.id).map(({ ip }) => ip),
      ].join(', '),
    })),
  ];
}

/** Of each sign the first two causes, with what settles them. */
const troubleLines = (fleet: Fleet, id: string): PageLine[] =>
  SIGNS.flatMap((sign) =>
    likelyCauses(fleet, id, sign)
      .slice(0, 2)
      .map(({ title, test }) => ({ text: `${sign}: ${title}`, value: test })),
  );
