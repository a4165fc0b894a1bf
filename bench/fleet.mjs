/** A generated fleet for measuring: hosts, pools, networks and guests as rows, written straight into the tables by the owner. */
import pg from 'pg';

const uuid = (kind, n) =>
  `00000000-0000-7000-8${kind.toString(16).padStart(3, '0')}-${n.toString(16).padStart(12, '0')}`;
const KIND = {
  platform: 1,
  domain: 2,
  network: 3,
  subnet: 4,
  host: 5,
  pool: 6,
  reach: 7,
  switch: 8,
  guest: 9,
  volume: 10,
  adapter: 11,
  address: 12,
  device: 13,
  port: 14,
  gate: 15,
};
const described = { notes: '', labels: [], owner: '', confirmed_at: null, confirmed_by: '' };

/** Writes the fleet as revision 1, with one log entry without patches: a bench record is measured, not replayed. */
export async function writeFleet(url, { hosts, guests }) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const put = async (table, rows) => {
    // Only the columns that are given: the others take the table's defaults.
    const columns = Object.keys(rows[0])
      .map((name) => `"${name}"`)
      .join(', ');
    for (let i = 0; i < rows.length; i += 5000) {
      await client.query(
        `insert into "${table}" (${columns}) select ${columns} from jsonb_populate_recordset(null::"${table}", $1)`,
        [JSON.stringify(rows.slice(i, i + 5000))],
      );
    }
  };
  await client.query('begin');
  await put('platform', [
    {
      id: uuid(KIND.platform, 0),
      revision: 1,
      name: 'Generic',
      bare_metal: true,
      keeps_mib: 2048,
      keeps_percent: 5,
      overhead_mib: 128,
      overhead_per_vcpu_mib: 8,
      overhead_percent: 1,
      video_mib: 16,
      ...described,
    },
  ]);
  await put('routing_domain', [
    { id: uuid(KIND.domain, 0), revision: 1, name: 'whole place', ...described },
  ]);
  const nets = Math.ceil(hosts / 10);
  const each = (n, make) => Array.from({ length: n }, (_, i) => ({ revision: 1, ...make(i) }));
  await put(
    'network',
    each(nets, (i) => ({
      id: uuid(KIND.network, i),
      name: `net-${i}`,
      purpose: '',
      vlan_id: (i % 4094) + 1,
      mtu: 1500,
      site_id: null,
      ...described,
    })),
  );
  await put(
    'subnet',
    each(nets, (i) => ({
      id: uuid(KIND.subnet, i),
      network_id: uuid(KIND.network, i),
      domain_id: uuid(KIND.domain, 0),
      prefix: `10.${i >> 6}.${(i & 63) * 4}.0/22`,
      gateway: `10.${i >> 6}.${(i & 63) * 4}.1`,
      name_servers: [],
    })),
  );
  await put(
    'host',
    each(hosts, (i) => ({
      id: uuid(KIND.host, i),
      name: `host-${i}`,
      name_assigned: true,
      state: 'in service',
      site_id: null,
      platform_id: uuid(KIND.platform, 0),
      purpose: '',
      processor_model: '',
      sockets: 2,
      cores_per_socket: 32,
      threads_per_core: 2,
      installed_mib: 1048576,
      visible_mib: 1032192,
      ...described,
    })),
  );
  await put(
    'pool',
    each(hosts, (i) => ({
      id: uuid(KIND.pool, i),
      name: `pool-${i}`,
      usable_bytes: 4e13,
      promise_limit_percent: 100,
      ...described,
    })),
  );
  await put(
    'pool_reach',
    each(hosts, (i) => ({
      id: uuid(KIND.reach, i),
      pool_id: uuid(KIND.pool, i),
      host_id: uuid(KIND.host, i),
    })),
  );
  await put(
    'virtual_switch',
    each(hosts, (i) => ({
      id: uuid(KIND.switch, i),
      host_id: uuid(KIND.host, i),
      network_id: uuid(KIND.network, i % nets),
      name: 'bridge',
      mode: 'bridged',
    })),
  );
  await put(
    'guest',
    each(guests, (i) => ({
      id: uuid(KIND.guest, i),
      name: `guest-${i}`,
      name_assigned: true,
      state: 'in service',
      template: false,
      host_id: uuid(KIND.host, i % hosts),
      family: 'Linux',
      purpose: '',
      vcpu: 1 + (i % 4),
      memory_mib: 2048 * (1 + (i % 7)),
      held_when_stopped: true,
      ...described,
    })),
  );
  // Two volumes and two adapters a guest, an address on the first: about 300,000 rows for 50,000 guests.
  await put(
    'volume',
    each(guests * 2, (i) => ({
      id: uuid(KIND.volume, i),
      guest_id: uuid(KIND.guest, i >> 1),
      pool_id: uuid(KIND.pool, (i >> 1) % hosts),
      label: `disk ${i % 2}`,
      bytes: 5e10,
      thin: false,
    })),
  );
  await put(
    'adapter',
    each(guests * 2, (i) => ({
      id: uuid(KIND.adapter, i),
      guest_id: uuid(KIND.guest, i >> 1),
      network_id: uuid(KIND.network, ((i >> 1) % hosts) % nets),
      position: i % 2,
      mac: `02:00:${(i >>> 24).toString(16).padStart(2, '0')}:${((i >> 16) & 255).toString(16).padStart(2, '0')}:${((i >> 8) & 255).toString(16).padStart(2, '0')}:${(i & 255).toString(16).padStart(2, '0')}`,
      mac_assigned: true,
    })),
  );
  // One router with a port on every network: who reaches whom is then a question over all of them.
  const routing = {
    gateway: null,
    gateway6: null,
    no_gateway: true,
    gateway_on_link: false,
    forwards: true,
  };
  await put('device', [
    {
      id: uuid(KIND.device, 0),
      revision: 1,
      name: 'core',
      name_assigned: false,
      kind: 'router',
      state: 'in service',
      site_id: null,
      model: '',
      domain: '',
      unread: [],
      ...routing,
      ...described,
    },
  ]);
  await put(
    'device_port',
    each(nets, (i) => ({
      id: uuid(KIND.port, i),
      device_id: uuid(KIND.device, 0),
      name: `net-${i}`,
      network_id: uuid(KIND.network, i),
      mac: null,
      up: true,
      tagged: false,
      switch_port_id: null,
      outside: false,
      masquerade: false,
      purpose: '',
    })),
  );
  await put(
    'address',
    each(nets, (i) => ({
      id: uuid(KIND.gate, i),
      domain_id: uuid(KIND.domain, 0),
      subnet_id: uuid(KIND.subnet, i),
      ip: `10.${i >> 6}.${(i & 63) * 4}.1`,
      assigned: false,
      use: 'static',
      purpose: '',
      host_id: null,
      adapter_id: null,
      device_port_id: uuid(KIND.port, i),
    })),
  );
  const used = new Map();
  await put(
    'address',
    each(guests, (i) => {
      const net = (i % hosts) % nets;
      const n = (used.get(net) ?? 9) + 1;
      used.set(net, n);
      return {
        id: uuid(KIND.address, i),
        domain_id: uuid(KIND.domain, 0),
        subnet_id: uuid(KIND.subnet, net),
        ip: `10.${net >> 6}.${(net & 63) * 4 + (n >> 8)}.${n & 255}`,
        assigned: true,
        use: 'static',
        purpose: '',
        host_id: null,
        adapter_id: uuid(KIND.adapter, i * 2),
      };
    }),
  );
  await client.query(
    "insert into log (revision, shape, at, actor_id, actor_name, title, reason, override, type, change, subjects, patches, record_ids) values (1, 4, now(), 'bench', 'bench', 'generated fleet', '', '', 'record.begin', '{}', '[]', '[]', '{}')",
  );
  await client.query('update revision set revision = 1');
  await client.query('commit');
  await client.query('analyze');
  await client.end();
}

export const guestId = (n) => uuid(KIND.guest, n);
export const hostId = (n) => uuid(KIND.host, n);
export const poolId = (n) => uuid(KIND.pool, n);
export const networkId = (n) => uuid(KIND.network, n);
