/** The rooms of the networks area, in one line above each of them. */
import { NavLink } from 'react-router';

const ROOMS: [string, string][] = [
  ['', 'Subnets'],
  ['/patch', 'Patch table'],
  ['/reach', 'Reach'],
  ['/matrix', 'Matrix'],
  ['/plan', 'Plan prefixes'],
  ['/switches', 'Switches'],
  ['/devices', 'Devices'],
  ['/names', 'Names'],
  ['/list', 'Take a list in'],
];

export function Strip() {
  return (
    <nav
      aria-label="Networks"
      className="no-print flex flex-wrap gap-x-4 border-b border-rule px-4"
    >
      {ROOMS.map(([path, title]) => (
        <NavLink
          key={path}
          end={path !== ''}
          to={`/networks${path}`}
          className={({ isActive }) =>
            `min-h-6 py-1 text-[13px] ${isActive && (path !== '' || !/^\/networks\/(patch|reach|matrix|plan|switches|devices|names|list)/.test(location.pathname)) ? 'border-b-2 border-teal font-bold' : ''}`
          }
        >
          {title}
        </NavLink>
      ))}
    </nav>
  );
}

/** A room of the area with its strip above. */
export function Room({ children }: { children: React.ReactNode }) {
  return (
    <div className="flex h-full min-h-0 flex-col">
      <Strip />
      <div className="min-h-0 flex-1">{children}</div>
    </div>
  );
}
