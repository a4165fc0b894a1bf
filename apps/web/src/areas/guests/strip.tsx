/** The rooms of the guests area, in one line above each of them. */
import { NavLink, useLocation } from 'react-router';

const ROOMS: [string, string][] = [
  ['', 'Guests'],
  ['/size', 'Size a guest'],
  ['/start-order', 'Start order'],
  ['/media', 'Media shelf'],
  ['/pools', 'Pools'],
  ['/roles', 'Roles and groups'],
  ['/samples', 'Measured use'],
  ['/table', 'From a table'],
];
const OTHERS = new RegExp(
  `^/guests/(${ROOMS.flatMap(([path]) => (path ? [path.slice(1)] : [])).join('|')})`,
);

/** A room of the area with the strip above. */
export function GuestRoom({ children }: { children: React.ReactNode }) {
  const { pathname } = useLocation();
  return (
    <div className="flex h-full min-h-0 flex-col print:block">
      <nav
        aria-label="Guests"
        className="no-print flex flex-wrap gap-x-4 border-b border-rule px-4"
      >
        {ROOMS.map(([path, title]) => {
          const here = path ? pathname.startsWith(`/guests${path}`) : !OTHERS.test(pathname);
          return (
            <NavLink
              key={path}
              to={`/guests${path}`}
              aria-current={here ? 'page' : undefined}
              className={`min-h-6 py-1 text-[13px] ${here ? 'border-b-2 border-teal font-bold' : ''}`}
            >
              {title}
            </NavLink>
          );
        })}
      </nav>
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}
