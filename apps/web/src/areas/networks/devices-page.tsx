/** Equipment that is neither host nor guest: a list, and the open one with its ports, addresses and routes. */
import type { DeviceView } from '@insel/contract';
import { DEVICE_KINDS, DEVICE_STATES, formatLinkSpeed, parseAddress, type Row } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { editing, useChange } from '../../frame/change.js';
import { errorsOf } from '../../components/field.js';
import { SheetActions } from '../../components/sheet-actions.js';
import { SheetFindings } from '../../components/finding-line.js';
import { Mark } from '../../components/mark.js';
import { PartsTable, type PartColumn, type PartRow } from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { Habits } from '../../components/habits.js';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { Routes } from '../../components/routes.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { AddressEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../frame/read.js';
import { ComputerPart } from './computer-part.js';

const WINDOW = 200;

export function DevicesPage() {
  const [search, set] = useUrlState();
  const mayPlan = useMayPlan();
  const [q, open] = [search.get('q') ?? '', search.get('open') ?? ''];
  const list = useRead('devices', { take: WINDOW, q }, { keep: true });
  if (list.error) return <p className="p-6 text-signal">{list.error.message}</p>;
  return (
    <div className="flex h-full min-h-0">
      <div
        className={`min-h-0 overflow-y-auto ${open ? 'hidden w-[400px] shrink-0 border-r border-ink md:block' : 'w-full'}`}
      >
        <div className="flex items-center gap-3 border-b border-rule px-2 py-1">
          <input
            aria-label="Filter by name or address"
            placeholder="Filter"
            className="w-[130px]"
            value={q}
            onChange={(event) => set({ q: event.target.value })}
          />
          <span className="text-[13px] text-faint">
            {list.data?.total ?? 0} in the list
            {(list.data?.total ?? 0) > WINDOW && `, the first ${WINDOW} shown`}
          </span>
          {mayPlan && <NewDevice open={(id) => set({ open: id })} />}
        </div>
        <ul aria-label="Equipment">
          {(list.data?.rows ?? []).map((row) => (
            <li key={row.id}>
              <button
                type="button"
                aria-current={row.id === open}
                className={`grid min-h-[32px] w-full cursor-pointer grid-cols-[1fr_76px_1.3fr_16px] items-center gap-2 border-b border-rule px-2 text-left ${row.id === open ? 'bg-water font-bold shadow-[inset_3px_0_0_var(--teal)]' : ''}`}
                onClick={() => set({ open: row.id })}
              >
                <span className="truncate">{row.name}</span>
                <span className="text-[13px]">{row.kind}</span>
                <span className="mono truncate text-[13px]" title={row.addresses.join(', ')}>
                  {open && row.addresses.length > 1
                    ? `${row.addresses[0]} + ${row.addresses.length - 1}`
                    : row.addresses.join(', ')}
                </span>
                <Mark mark={row.finding} />
              </button>
            </li>
          ))}
        </ul>
        {list.data?.total === 0 && (
          <p className="p-4 text-faint">
            Routers, printers, access points, computers of their own: what has an address and is
            neither host nor guest. A router recorded here makes Reach answer beyond one network.
          </p>
        )}
      </div>
      {open && (
        <div className="min-h-0 min-w-0 flex-1 overflow-y-auto px-5 py-3">
          <DeviceSheet key={open} id={open} />
        </div>
      )}
    </div>
  );
}

function NewDevice({ open }: { open: (id: string) => void }) {
  const { make, problem } = useChange();
  const [draft, setDraft] = useState<{ name: string; kind: Row<'device'>['kind'] } | null>(null);
  if (!draft)
    return (
      <button
        type="button"
        className="act ml-auto"
        onClick={() => setDraft({ name: '', kind: 'router' })}
      >
        Record equipment
      </button>
    );
  const send = async () => {
    const written = await make('device.record', {
      ...draft,
      forwards: draft.kind === 'router' || draft.kind === 'firewall',
      ports: [],
    });
    if (!written) return;
    setDraft(null);
    open(written.created.find((row) => row.kind === 'device')!.id);
  };
  return (
    <form
      className="ml-auto flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <input
        autoFocus
        aria-label="Name of new equipment"
        placeholder="name"
        className="w-[130px]"
        value={draft.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <select
        aria-label="Kind of the new equipment"
        value={draft.kind}
        onChange={(event) =>
          setDraft({ ...draft, kind: event.target.value as Row<'device'>['kind'] })
        }
      >
        {DEVICE_KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      <button type="submit" className="act">
        Record it
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}

function DeviceSheet({ id }: { id: string }) {
  const mayPlan = useMayPlan();
  const [, set] = useUrlState();
  const { make, problem } = useChange();
  const found = useRead('device', { id });
  const sites = useRead('sites').data ?? [];
  if (found.error) return <p className="text-signal">{found.error.message}</p>;
  if (!found.data) return null;
  const { device } = found.data;
  const at = editing('device.edit', device);
  return (
    <article aria-label={`Equipment ${device.name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h1>
          <TextEdit at={at('name')} name="Name" value={device.name} />
        </h1>
        <OneOf at={at('kind')} name="Kind" value={device.kind} choices={DEVICE_KINDS} />
        <OneOf at={at('state')} name="State" value={device.state} choices={DEVICE_STATES} />
        <SheetActions
          first={{ label: 'Whom does it reach', to: `/networks/reach?from=${id}` }}
          rest={[
            { label: 'Entries in the log', to: `/log?subject=${id}` },
            mayPlan && {
              label: `Remove ${device.name}`,
              act: () =>
                void make('device.remove', { id }, { seen: device }).then(
                  (written) => written && set({ open: '' }),
                ),
            },
          ]}
        />
        <button type="button" className="act" onClick={() => set({ open: '' })}>
          Close
        </button>
      </div>
      <SheetFindings findings={device.findings} />
      {device.unread.length > 0 && (
        <Part title="Not read">
          {device.unread.map((text) => (
            <p key={text}>{text}</p>
          ))}
          {mayPlan && (
            <button
              type="button"
              className="act"
              onClick={() => void make('device.edit', { id, unread: [] }, { seen: device })}
            >
              I have looked: remove these remarks
            </button>
          )}
        </Part>
      )}
      {device.computer && <ComputerPart device={device} of={device.computer} />}
      <Part title="Routing">
        <Facts>
          <Fact name="Forwards">
            <YesNo at={at('forwards')} name="Forwards" value={device.forwards} />
          </Fact>
          <Fact name="Gateway">
            <AddressEdit
              at={at('gateway')}
              name="Gateway"
              value={device.gateway}
              none={device.noGateway ? 'none, on purpose' : 'as its subnet says'}
            />
          </Fact>
          <Fact name="Has no gateway">
            <YesNo
              at={at('noGateway')}
              name="Has no gateway"
              value={device.noGateway}
              yes="on purpose"
              no="–"
            />
          </Fact>
          <Fact name="Gateway, IPv6">
            <AddressEdit
              at={at('gateway6')}
              name="Gateway, IPv6"
              value={device.gateway6}
              none="as its subnet says"
            />
          </Fact>
          <Fact name="Gateway on-link">
            <YesNo
              at={at('gatewayOnLink')}
              name="Gateway on-link"
              value={device.gatewayOnLink}
              yes="outside its subnet on purpose"
              no="–"
            />
          </Fact>
          <Habits at={at} of={device} />
        </Facts>
        <Routes routes={device.routes} holder={{ deviceId: id }} name={device.name} />
        <ForwardedPorts
          ports={device.forwardedPorts}
          holder={{ deviceId: id }}
          name={device.name}
        />
      </Part>
      <Ports device={device} />
      <Part title="About it">
        <Facts>
          <Fact name="Site">
            <OneOf
              at={at('siteId')}
              name="Site"
              value={device.siteId}
              choices={[
                { value: '', label: 'no site' },
                ...sites.map((site) => ({ value: site.id, label: site.name })),
              ]}
            />
          </Fact>
          <Fact name="Model">
            <TextEdit at={at('model')} name="Model" value={device.model} />
          </Fact>
          <Fact name="Domain">
            <TextEdit at={at('domain')} name="Domain" value={device.domain} mono />
          </Fact>
          <Fact name="Full name">
            <span className="mono">{device.fullName}</span>
          </Fact>
          <Fact name="Notes">
            <TextEdit at={at('notes')} name="Notes" value={device.notes} />
          </Fact>
          <Fact name="Last confirmed">
            {device.confirmedAt ? (
              `${device.confirmedAt.slice(0, 10)}, ${device.confirmedBy}`
            ) : (
              <span className="text-faint">never</span>
            )}
          </Fact>
        </Facts>
      </Part>
      <ProblemNote problem={problem} />
    </article>
  );
}

const OF_ROUTERS: PartColumn[] = [
  { field: 'outside', title: 'Out', width: '26px', flag: true },
  { field: 'masquerade', title: 'NAT', width: '28px', flag: true },
  { field: 'masqueradeFrom', title: 'only from', width: '104px', mono: true },
];
/** Who copies by it asks at what speed it has negotiated. */
const OF_COMPUTERS: PartColumn[] = [
  { field: 'speed', title: 'Mbit/s', width: '58px', mono: true },
  { field: 'duplex', title: 'Duplex', width: '78px', choices: ['unknown', 'full', 'half'] },
];
const speedOf = ({ bitsPerSecond, duplex }: DeviceView['ports'][number]) =>
  [
    bitsPerSecond !== null && formatLinkSpeed(bitsPerSecond),
    duplex !== 'unknown' && `${duplex} duplex`,
  ]
    .filter(Boolean)
    .join(', ');

const listed = (text: unknown) =>
  String(text)
    .split(/[\s,]+/)
    .filter(Boolean);

function Ports({ device }: { device: DeviceView }) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const plugs = useRead('plugs').data?.switches ?? [];
  const [rows, setRows] = useState<PartRow[] | null>(null);
  const plugName = (portId: string | null) =>
    plugs
      .flatMap((found) =>
        found.ports.map((port) => ({ id: port.id, name: `${found.name}, ${port.name}` })),
      )
      .find((port) => port.id === portId)?.name ?? '';
  const networkName = (id: string | null) =>
    networks.find((network) => network.id === id)?.name ?? '';
  if (!rows) {
    return (
      <Part title="Ports">
        {device.ports.map((port) => (
          <div
            key={port.id}
            className="grid grid-cols-2 items-baseline gap-x-3 md:grid-cols-[110px_150px_1fr_1fr] border-b border-rule py-0.5"
          >
            <b>
              {port.name}
              {!port.up && <span className="text-signal"> down</span>}
            </b>
            <span>
              {port.outside ? (
                'leads outside'
              ) : port.network ? (
                <Link className="underline decoration-rule" to={`/networks/${port.network.id}`}>
                  {port.network.name}
                </Link>
              ) : (
                <span className="text-faint">no network</span>
              )}
              {port.masquerade && ', translates'}
              {port.masquerade && port.masqueradeFrom && ` what comes from ${port.masqueradeFrom}`}
            </span>
            <span className="mono">
              {port.addresses
                .map(
                  (address) =>
                    `${address.ip}${address.prefixLength === null ? '' : `/${address.prefixLength}`}`,
                )
                .join(', ') || '–'}
            </span>
            <span className="text-[13px] text-faint">
              {[port.mac, speedOf(port), port.switchPortId && plugName(port.switchPortId)]
                .filter(Boolean)
                .join(' · ')}
            </span>
          </div>
        ))}
        {device.ports.length === 0 && (
          <p className="text-faint">No port yet: it is joined to nothing.</p>
        )}
        {mayPlan && (
          <button
            type="button"
            className="act"
            onClick={() =>
              setRows(
                device.ports.map((port) => ({
                  name: port.name,
                  network: networkName(port.networkId),
                  addresses: port.addresses
                    .map(
                      (address) =>
                        `${address.ip}${address.prefixLength === null ? '' : `/${address.prefixLength}`}`,
                    )
                    .join(', '),
                  mac: port.mac ?? '',
                  plug: plugName(port.switchPortId),
                  up: port.up,
                  tagged: port.tagged,
                  outside: port.outside,
                  masquerade: port.masquerade,
                  masqueradeFrom: port.masqueradeFrom,
                  speed: port.bitsPerSecond === null ? '' : String(port.bitsPerSecond / 1e6),
                  duplex: port.duplex,
                })),
              )
            }
          >
            Edit the ports
          </button>
        )}
      </Part>
    );
  }
  const taken = new Set(device.ports.map((port) => port.switchPortId));
  const columns: PartColumn[] = [
    { field: 'name', title: 'Port', width: '84px' },
    {
      field: 'network',
      title: 'Network',
      width: '126px',
      choices: ['', ...networks.map((network) => network.name)],
    },
    {
      field: 'addresses',
      title: 'Addresses found',
      width: '172px',
      mono: true,
      placeholder: '192.0.2.1/24',
    },
    { field: 'mac', title: 'MAC', width: '140px', mono: true },
    {
      field: 'plug',
      title: 'Cable goes to',
      width: '150px',
      choices: [
        '',
        ...plugs.flatMap((found) =>
          found.ports
            .filter((port) => !port.taken || taken.has(port.id))
            .map((port) => `${found.name}, ${port.name}`),
        ),
      ],
    },
    { field: 'up', title: 'Up', width: '24px', flag: true },
    { field: 'tagged', title: 'Tag', width: '26px', flag: true },
    ...(device.computer ? OF_COMPUTERS : OF_ROUTERS),
  ];
  const faults: Record<string, string> = {};
  rows.forEach((row, i) => {
    if (row.speed && !/^\d{1,6}$/.test(String(row.speed)))
      faults[`${i}.speed`] = 'Write the speed in Mbit/s, as 1000.';
    for (const text of listed(row.addresses)) {
      const [ip, length] = text.split('/');
      const found = parseAddress(ip!);
      if (!found.ok) faults[`${i}.addresses`] = found.sentence;
      else if (length !== undefined && !/^\d{1,3}$/.test(length))
        faults[`${i}.addresses`] = `${text}: write the prefix length as a number.`;
    }
  });
  const send = async () => {
    if (Object.keys(faults).length) return;
    const portId = (text: unknown) =>
      plugs
        .flatMap((found) =>
          found.ports.map((port) => ({ id: port.id, name: `${found.name}, ${port.name}` })),
        )
        .find((port) => port.name === text)?.id ?? null;
    const ports = rows.map((row) => ({
      name: String(row.name),
      networkId: networks.find((network) => network.name === row.network)?.id ?? null,
      mac: String(row.mac).trim() || null,
      switchPortId: portId(row.plug),
      up: Boolean(row.up),
      tagged: Boolean(row.tagged),
      outside: Boolean(row.outside),
      masquerade: Boolean(row.masquerade),
      masqueradeFrom: String(row.masqueradeFrom),
      bitsPerSecond: row.speed ? Number(row.speed) * 1e6 : null,
      duplex: row.duplex as Row<'devicePort'>['duplex'],
      addresses: listed(row.addresses).map((text) => ({
        ip: text.split('/')[0]!,
        prefixLength: text.includes('/') ? Number(text.split('/')[1]) : null,
      })),
    }));
    if (await make('device.set-ports', { id: device.id, ports }, { seen: device })) setRows(null);
  };
  const fromServer = Object.fromEntries(
    Object.entries(errorsOf(problem)).map(([field, sentence]) => [
      field.replace(/^ports\./, '').replace(/addresses.*$/, 'addresses'),
      sentence,
    ]),
  );
  return (
    <Part title="Ports">
      <PartsTable
        title="Ports"
        name="port"
        columns={columns}
        rows={rows}
        set={setRows}
        fresh={() => ({
          name: `port ${rows.length + 1}`,
          network: '',
          addresses: '',
          mac: '',
          plug: '',
          up: true,
          tagged: false,
          outside: false,
          masquerade: false,
          masqueradeFrom: '',
          speed: '',
          duplex: 'unknown',
        })}
        errors={{ ...fromServer, ...faults }}
      />
      {!device.computer && (
        <p className="text-xs text-faint">
          Out: the port leads to the provider. NAT: what is forwarded out there takes the port’s
          address; only from: blocks whose packets do, where not all.
        </p>
      )}
      <p className="mt-1 flex gap-4">
        <button type="button" className="press" disabled={busy} onClick={() => void send()}>
          Keep these ports
        </button>
        <button type="button" className="act" onClick={() => setRows(null)}>
          Drop what I typed
        </button>
      </p>
      <ProblemNote problem={problem} />
    </Part>
  );
}
