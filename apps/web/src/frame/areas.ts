/** An area: where it is, and where something new is made in it. */
interface Area {
  path: string;
  title: string;
  make?: string;
}

/** The areas that are built, in the order of work; number keys go there. */
export const AREAS: readonly Area[] = [
  { path: 'chart', title: 'Chart', make: '/hosts/new' },
  { path: 'hosts', title: 'Hosts', make: '/hosts/new' },
  { path: 'networks', title: 'Networks', make: '/networks/new' },
  { path: 'guests', title: 'Guests', make: '/guests/new' },
  { path: 'clones', title: 'Clones', make: '/clones/new' },
  { path: 'migrations', title: 'Migrations', make: '/migrations/new' },
  { path: 'plans', title: 'Plans' },
  { path: 'log', title: 'Log', make: '/log?note' },
  { path: 'findings', title: 'Findings' },
];
