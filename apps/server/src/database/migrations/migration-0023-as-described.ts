import { Migration } from '@mikro-orm/migrations';
import { LATER } from './columns.js';

/**
 * The tables as the kinds describe them: whole numbers of one size, what a field begins with, choices, and an index for every
 * reference. Without one a row could only be deleted by looking through all tables that may refer to it: undoing an import of
 * 500 guests beside 50,000 others held the record for the better part of a minute.
 */
export class Migration0023AsDescribed extends Migration {
  override up(): void {
    this.addSql('alter table host drop constraint host_rack_place_once');
    for (const [table, columns] of Object.entries(WHOLE_NUMBERS))
      this.addSql(
        `alter table "${table}" ${columns
          .split(' ')
          .map((column) => `alter column "${column}" type bigint`)
          .join(', ')}`,
      );
    this.addSql(RACK_PLACE_ONCE);
    for (const [begins, tables] of Object.entries(DEFAULTS))
      for (const [table, columns] of Object.entries(tables))
        this.addSql(
          `alter table "${table}" ${columns
            .split(' ')
            .map((column) => `alter column "${column}" set default ${begins}`)
            .join(', ')}`,
        );
    this.addSql('alter table move_answer drop constraint if exists move_answer_sign_check');
    for (const [table, column, choices] of CHOICES)
      this.addSql(
        `alter table "${table}" add constraint "${table}_${column}_check" check ("${column}" in (${choices
          .map((one) => `'${one}'`)
          .join(', ')}))`,
      );
    for (const [table, columns] of Object.entries(REFERENCES))
      for (const column of columns.split(' '))
        this.addSql(
          `create index if not exists "${table}_${column}_idx" on "${table}" ("${column}")`,
        );
  }
}

const RACK_PLACE_ONCE = `alter table host add constraint host_rack_place_once exclude using gist
  (rack_id with =, int8range(rack_unit, rack_unit + rack_height) with &&)
  where (rack_id is not null and rack_unit is not null and state <> 'retired') ${LATER}`;

const WHOLE_NUMBERS: Readonly<Record<string, string>> = {
  rack: 'units feed_watts ups_minutes',
  power_feed: 'watts ups_minutes',
  platform:
    'keeps_mib keeps_percent overhead_mib overhead_per_vcpu_mib overhead_percent video_mib minimum_level minimum_memory_mib footprint_bytes console_port interface_first',
  profile:
    'minimum_vcpu minimum_memory_mib minimum_bytes usual_vcpu usual_memory_mib usual_bytes usual_data_bytes usual_load load_step step_milli_vcpu step_memory_mib step_data_bytes adapters start_seconds',
  host_group: 'vcpu_per_core memory_percent reserve_percent quorum starts_at_once',
  guest_group: 'needed',
  network: 'vlan_id mtu',
  subnet: 'quarantine_days low_kept',
  physical_switch: 'mtu',
  switch_port: 'bits_per_second untagged_vlan',
  host: 'sockets cores_per_socket threads_per_core installed_mib visible_mib boot_seconds stop_seconds starts_at_once rack_unit rack_height weight_kg power_supplies draw_watts memory_slots bays base_mhz stated_level console_port',
  memory_module: 'size_mib',
  numa_node: 'node cores memory_mib',
  array: 'groups',
  disk: 'bytes',
  port: 'bits_per_second',
  pool: 'usable_bytes promise_limit_percent copies fill_alarm_percent used_bytes starts_at_once',
  medium: 'bytes',
  guest: 'vcpu memory_mib start_seconds stop_seconds',
  volume: 'bytes used_bytes',
  snapshot: 'bytes growth_bytes_per_day',
  adapter: 'position',
  device_port: 'bits_per_second',
  computer:
    'sockets cores_per_socket threads_per_core memory_mib cpu_p95_percent memory_peak_mib rack_height draw_watts',
  computer_disk: 'bytes used_bytes sector_bytes',
  address: 'prefix_length',
  route: 'metric',
  forwarded_port: 'port to_port',
  backup: 'every_minutes takes_minutes restore_minutes',
  clone: 'copy_seconds',
  template_version: 'number resets',
  entitlement: 'count copies_per_host least_per_host users',
  migration:
    'link_bits_per_second bytes estimate_seconds copy_seconds bytes_done dirty_bytes_per_second',
  move_step: 'position minutes',
  hold: 'vcpu memory_mib bytes',
  plan_step: 'position shape',
};

/** What columns begin with, by table. */
const DEFAULTS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  "''": {
    acceptance: 'evidence by',
    guest_group: 'purpose',
    host_group: 'witness',
    name_record: 'data source',
    plan_step: 'input',
    profile: 'load_unit',
    entitlement: 'label',
    physical_switch: 'model',
    network: 'purpose',
    host: 'purpose processor_model',
    memory_module: 'speed',
    host_build: 'differences',
    guest: 'purpose',
    identity_fact: 'value seen_by',
    identity_item: 'done_by remark',
    build_tick: 'by remark',
    dependency: 'purpose',
    disk: 'model serial',
    medium: 'sha256 kept',
    backup: 'place',
    device: 'model domain',
    route: 'purpose',
    move_step: 'title detail destroys by remark',
    move_reading: 'by',
    forwarded_port: 'purpose',
    computer_disk: 'model serial',
    computer: 'processor_model serial controller recovery_key_kept',
    snapshot: 'why',
    range: 'purpose',
    quarantine: 'was',
    switch_port: 'tagged_vlans purpose',
    port: 'card plugged_into',
    device_port: 'purpose',
    template: 'purpose',
    template_version: 'changed installed sealed_by',
    seal_item: 'done_by remark',
    verification: 'by remark',
    verification_test: 'remark',
    address: 'purpose',
  },
  "'host'": {
    guest_group: 'spread',
    placement_rule: 'scope',
  },
  '0': {
    guest_group: 'needed',
    host_group: 'reserve_percent',
    profile: 'usual_data_bytes usual_load step_milli_vcpu step_memory_mib step_data_bytes',
    entitlement: 'copies_per_host least_per_host users',
    adapter: 'position',
    move_step: 'minutes',
    snapshot: 'bytes growth_bytes_per_day',
    template_version: 'resets',
  },
  '4': {
    host_group: 'vcpu_per_core',
  },
  '100': {
    host_group: 'memory_percent',
    pool: 'promise_limit_percent',
  },
  true: {
    host_group: 'restarts',
    platform: 'bare_metal',
    guest: 'held_when_stopped',
    switch_port: 'up',
    switch_line: 'up',
    port: 'wired',
    device_port: 'up',
  },
  '2048': {
    platform: 'keeps_mib',
    profile: 'usual_memory_mib',
  },
  '5': {
    platform: 'keeps_percent',
  },
  '128': {
    platform: 'overhead_mib',
  },
  '8': {
    platform: 'overhead_per_vcpu_mib',
  },
  '1': {
    platform: 'overhead_percent',
    profile: 'minimum_vcpu load_step adapters',
    array: 'groups',
  },
  '16': {
    platform: 'video_mib',
  },
  '32000000000': {
    platform: 'footprint_bytes',
  },
  "'{}'": {
    platform: 'disk_buses adapter_models',
    move_reading: 'lines',
    computer: 'attached drivers_at_hand',
  },
  "'text'": {
    profile: 'display',
  },
  '512': {
    profile: 'minimum_memory_mib',
  },
  '8589934592': {
    profile: 'minimum_bytes',
  },
  '2': {
    profile: 'usual_vcpu',
  },
  '53687091200': {
    profile: 'usual_bytes',
  },
  '60': {
    profile: 'start_seconds',
  },
  "'any'": {
    entitlement: 'family',
  },
  '42': {
    rack: 'units',
  },
  '1500': {
    physical_switch: 'mtu',
    network: 'mtu',
  },
  false: {
    host: 'name_assigned',
    guest: 'name_assigned template',
    adapter: 'mac_assigned',
    disk: 'spare',
    device: 'name_assigned no_gateway gateway_on_link forwards',
    migration: 'running',
    move_answer: 'was',
    computer_disk: 'boot',
    port: 'management',
    device_port: 'tagged outside masquerade',
    verification_test: 'passed',
    address: 'assigned',
    volume: 'thin',
  },
  "'none'": {
    disk: 'purpose',
    move_step: 'becomes',
  },
  "'in service'": {
    device: 'state',
  },
  "'open'": {
    move_step: 'state',
  },
  "'tcp'": {
    forwarded_port: 'protocol',
  },
  "'unknown'": {
    computer_disk: 'health layout',
    computer: 'work controller_mode boot_mode secure_boot encryption licence_tied',
    port: 'connector',
  },
};

const CHOICES: readonly (readonly [string, string, readonly string[]])[] = [
  ['guest', 'family', ['Linux', 'BSD', 'NT family', 'appliance', 'other']],
  [
    'move_answer',
    'sign',
    [
      'the copying environment gets no address',
      'the receiving side does not find the sender',
      'no disk is seen',
      'the target is refused as smaller',
      'the copy stalls or crawls',
      'read errors',
      'a stop error at its start',
      'no disk to start from is found',
      'the installer starts again',
      'no network',
      'both lost their connection',
      'the desktop fails, text works',
      'it is slower than before',
      'its clock is wrong',
    ],
  ],
  ['computer_disk', 'health', ['unknown', 'good', 'read errors']],
  ['computer_disk', 'layout', ['unknown', 'plain', 'member of a software array']],
  ['computer', 'family', ['Linux', 'BSD', 'NT family', 'appliance', 'other']],
  [
    'computer',
    'work',
    [
      'unknown',
      'ordinary',
      'files or finance',
      'directory',
      'certificate authority',
      'replicated database',
      'member of a cluster',
    ],
  ],
  ['computer', 'architecture', ['x86-64', 'aarch64', 'other']],
  ['computer', 'controller_mode', ['unknown', 'AHCI', 'IDE', 'RAID', 'pass-through', 'NVMe']],
  ['computer', 'boot_mode', ['unknown', 'UEFI', 'legacy']],
  ['computer', 'secure_boot', ['unknown', 'on', 'off']],
  ['computer', 'encryption', ['unknown', 'none', 'asks for its key', 'bound to its security chip']],
  ['computer', 'licence_tied', ['unknown', 'no', 'yes']],
  [
    'seal_item',
    'item',
    [
      'disk copied',
      'updates installed',
      'identity generalised',
      'logs and host keys removed',
      'licence reset',
      'installation medium ejected',
      'adapter binding removed',
      'joined to no directory',
      'shut down cleanly',
    ],
  ],
];

const REFERENCES: Readonly<Record<string, string>> = {
  rack: 'site_id',
  power_feed: 'site_id',
  network: 'site_id',
  network_site: 'network_id site_id',
  subnet: 'network_id domain_id',
  range: 'subnet_id',
  quarantine: 'subnet_id',
  physical_switch: 'site_id rack_id',
  switch_port: 'physical_switch_id',
  switch_line: 'a_port_id b_port_id',
  host: 'site_id platform_id group_id outer_guest_id rack_id',
  power_cord: 'host_id feed_id',
  memory_module: 'host_id',
  numa_node: 'host_id',
  array: 'host_id',
  disk: 'host_id array_id',
  port: 'host_id switch_port_id',
  pool: 'array_id disk_id server_guest_id',
  medium: 'platform_id pool_id',
  pool_reach: 'pool_id host_id',
  virtual_switch: 'host_id network_id nat_uplink_id',
  uplink: 'switch_id port_id',
  guest: 'host_id profile_id group_id',
  volume: 'guest_id pool_id base_id',
  drive: 'guest_id medium_id',
  snapshot: 'guest_id pool_id',
  build_tick: 'guest_id',
  adapter: 'guest_id network_id trunk_id',
  device: 'site_id',
  device_port: 'device_id network_id switch_port_id',
  computer: 'device_id',
  computer_disk: 'device_id',
  address: 'domain_id subnet_id host_id adapter_id device_port_id virtual_switch_id',
  route: 'host_id guest_id device_id',
  forwarded_port: 'host_id guest_id device_id',
  placement_rule: 'host_id',
  placement_member: 'rule_id guest_id',
  backup: 'guest_id pool_id store_guest_id',
  verification: 'host_id',
  verification_test: 'verification_id',
  host_build: 'host_id',
  clone: 'guest_id origin_id',
  identity_item: 'clone_id',
  template_version: 'template_id guest_id from_id medium_id',
  seal_item: 'version_id',
  entitlement: 'profile_id',
  identity_fact: 'guest_id',
  migration: 'guest_id source_host_id target_host_id source_device_id target_device_id',
  volume_move: 'migration_id volume_id from_pool_id to_pool_id computer_disk_id',
  move_step: 'migration_id',
  move_reading: 'migration_id',
  move_answer: 'migration_id',
  hold: 'migration_id host_id pool_id device_id',
  service: 'host_group_id',
  provider: 'service_id guest_id device_id',
  dependency: 'host_id guest_id service_id on_guest_id',
  plan: 'on_plan_id',
  plan_step: 'plan_id',
};
