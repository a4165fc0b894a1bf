/** The areas that are built, in the order of work; keys 1 to 7 go there. */
export const AREAS = [
  { path: 'chart', title: 'Chart', make: '/hosts/new' },
  { path: 'hosts', title: 'Hosts', make: '/hosts/new' },
  { path: 'networks', title: 'Networks', make: '/networks/new' },
  { path: 'guests', title: 'Guests', make: '/guests/new' },
  { path: 'clones', title: 'Clones', make: '/clones/new' },
  { path: 'migrations', title: 'Migrations', make: '/migrations/new' },
  { path: 'log', title: 'Log', make: '/log?note' },
] as const;
