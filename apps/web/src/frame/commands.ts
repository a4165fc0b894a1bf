/** What the search field can do: the words on screen, where it leads, and what people call it besides. */
export interface Command {
  label: string;
  path: string;
  also?: string;
}

export const COMMANDS: readonly Command[] = [
  {
    label: 'Room left on hosts',
    path: '/hosts?sort=memoryLeft&order=down',
    also: 'free space capacity',
  },
  { label: 'What may fail', path: '/chart', also: 'failure tolerance outage down redundancy' },
  { label: 'Place new guests', path: '/plans/place', also: 'batch many where fit licences' },
  { label: 'Empty a host: find moves', path: '/plans/moves', also: 'evacuate drain balance even' },
  { label: 'When it runs out, and what to buy', path: '/plans/growth', also: 'full trend growth' },
  { label: 'Record a host', path: '/hosts/new', also: 'add new machine server' },
  { label: 'Record hosts from a table', path: '/hosts/table', also: 'import csv paste' },
  { label: 'Take facts of a machine in', path: '/hosts/facts', also: 'hardware import' },
  { label: 'Compare array levels', path: '/hosts/arrays', also: 'raid disks mirror parity' },
  { label: 'Groups, racks, platforms, rules', path: '/hosts/places', also: 'sites feed' },
  { label: 'Record a network', path: '/networks/new', also: 'add subnet vlan' },
  { label: 'Who reaches whom', path: '/networks/reach', also: 'ping route gateway connect' },
  { label: 'Matrix: guests against guests', path: '/networks/matrix', also: 'reach' },
  { label: 'Patch table', path: '/networks/patch', also: 'cables ports cabling' },
  { label: 'Divide a subnet', path: '/networks/plan', also: 'plan prefixes cidr' },
  { label: 'Switches and lines', path: '/networks/switches', also: 'ports vlan trunk' },
  {
    label: 'Equipment',
    path: '/networks/devices',
    also: 'devices router gateway printer firewall',
  },
  { label: 'Zones, hosts file, reservations', path: '/networks/names', also: 'dns dhcp export' },
  { label: 'Take a list of machines in', path: '/networks/list', also: 'import addresses' },
  { label: 'Size a guest', path: '/guests/size', also: 'how much memory vcpu' },
  { label: 'Media shelf', path: '/guests/media', also: 'iso image install' },
  { label: 'Pools: promised, used, until full', path: '/guests/pools', also: 'storage free room' },
  { label: 'Roles and groups of guests', path: '/guests/roles', also: 'profiles' },
  { label: 'Take measured samples in', path: '/guests/samples', also: 'monitoring usage import' },
  { label: 'Record guests from a table', path: '/guests/table', also: 'import csv paste' },
  { label: 'Plan a guest', path: '/guests/new', also: 'add new vm create' },
  { label: 'Record an existing guest', path: '/guests/new?record', also: 'add vm' },
  {
    label: 'Shutdown in order, against the UPS',
    path: '/guests/shut-down',
    also: 'power stop minutes battery',
  },
  { label: 'Start order after a power cut', path: '/guests/start-order', also: 'boot' },
  { label: 'Make clones', path: '/clones/new', also: 'copy template' },
  { label: 'Templates and their versions', path: '/clones/templates', also: 'master image' },
  { label: 'Lineage of clones', path: '/clones/lineage' },
  { label: 'Licences: allowed and used', path: '/clones/licences' },
  { label: 'Migrate a guest', path: '/migrations/new', also: 'move' },
  {
    label: 'Make a computer a guest',
    path: '/migrations/new-physical',
    also: 'physical p2v virtualise',
  },
  {
    label: 'Put a guest onto a computer',
    path: '/migrations/new-physical?onto',
    also: 'physical v2p hardware',
  },
  { label: 'Timetable of migrations', path: '/migrations/timetable', also: 'calendar window' },
  { label: 'Migrations, planned and actual', path: '/migrations/actual', also: 'calibration' },
  { label: 'Export the list of guests', path: '/guests', also: 'csv json download print' },
  { label: 'Export the list of hosts', path: '/hosts', also: 'csv json download print' },
  { label: 'Note something in the log', path: '/log?note', also: 'write remark' },
];

export const ADMINISTRATION: readonly Command[] = [
  { label: 'Record the machine Insel runs on', path: '/this-machine' },
  { label: 'Leave the demo, start mine', path: '/leave-demo' },
  { label: 'People', path: '/people', also: 'accounts users password' },
  { label: 'The server: memory, changes, what is kept', path: '/server', also: 'slow performance' },
];
