/** Ports of a device, and the lines in them. */
import type { DeviceView } from '@insel/contract';
import { formatLinkSpeed, parseAddress } from '@insel/core';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import type { Errors } from '../../components/field.js';
import { usePartsForm } from '../../components/parts-form.js';
import {
  KeepParts,
  PartsTable,
  type PartColumn,
  type PartRow,
} from '../../components/parts-table.js';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useRead } from '../../client/read.js';

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

/** What cannot be read, by row and column. */
function faultsOf(rows: readonly PartRow[]): Errors {
  const faults: Errors = {};
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
  return faults;
}

const portOf = (row: PartRow) => ({
  name: String(row.name),
  mac: String(row.mac).trim() || null,
  up: Boolean(row.up),
  tagged: Boolean(row.tagged),
  outside: Boolean(row.outside),
  masquerade: Boolean(row.masquerade),
  masqueradeFrom: String(row.masqueradeFrom),
  bitsPerSecond: row.speed ? Number(row.speed) * 1e6 : null,
  duplex: row.duplex,
  addresses: listed(row.addresses).map((text) => ({
    ip: text.split('/')[0]!,
    prefixLength: text.includes('/') ? Number(text.split('/')[1]) : null,
  })),
});

export function Ports({ device }: { device: DeviceView }) {
  const mayPlan = useMayPlan();
  const networks = useRead('networks', { take: 200 }).data?.rows ?? [];
  const plugs = useRead('plugs').data?.switches ?? [];
  const plugged = plugs.flatMap((found) =>
    found.ports.map(({ id, name, taken }) => ({ id, taken, name: `${found.name}, ${name}` })),
  );
  const plugName = (portId: string | null) => plugged.find(({ id }) => id === portId)?.name ?? '';
  const networkName = (id: string | null) =>
    networks.find((network) => network.id === id)?.name ?? '';
  const form = usePartsForm({
    ...{ type: 'device.set-ports', id: device.id, list: 'ports' },
    read: (typed) => ({
      faults: faultsOf(typed),
      parts: typed.map((row) => ({
        ...portOf(row),
        networkId: networks.find(({ name }) => name === row.network)?.id ?? null,
        switchPortId: plugged.find(({ name }) => name === row.plug)?.id ?? null,
      })),
    }),
    columns: { networkId: 'network', switchPortId: 'plug', bitsPerSecond: 'speed' },
    options: { seen: device },
  });
  const { rows, set, open, begin, drop, errors, busy, problem, send } = form;
  if (!open) {
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
              begin(
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
        ...plugged.filter((port) => !port.taken || taken.has(port.id)).map(({ name }) => name),
      ],
    },
    { field: 'up', title: 'Up', width: '24px', flag: true },
    { field: 'tagged', title: 'Tag', width: '26px', flag: true },
    ...(device.computer ? OF_COMPUTERS : OF_ROUTERS),
  ];
  return (
    <Part title="Ports" wide>
      <PartsTable
        title="Ports"
        name="port"
        columns={columns}
        rows={rows}
        set={set}
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
        errors={errors}
      />
      {!device.computer && (
        <p className="text-xs text-faint">
          Out: the port leads to the provider. NAT: what is forwarded out there takes the port’s
          address; only from: blocks whose packets do, where not all.
        </p>
      )}
      <KeepParts label="Keep these ports" busy={busy} keep={send} drop={drop} />
      <ProblemNote problem={problem} />
    </Part>
  );
}
