/** The views of an area, in one line above the one that is open. */
import { Suspense } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { usePhone } from './use-phone.js';

/** Path below the area, and title; the first is the area's list itself. */
export type View = readonly [path: string, title: string];

export function TabStrip({
  area,
  title,
  views,
}: {
  area: string;
  title: string;
  views: readonly View[];
}) {
  const { pathname } = useLocation();
  const phone = usePhone();
  const go = useNavigate();
  const below = pathname.split('/')[2] ?? '';
  const open = views.some(([path]) => path === below) ? below : '';
  return (
    <div className="flex h-full min-h-0 flex-col print:block">
      {phone ? (
        <select
          aria-label={`Views of ${title}`}
          className="no-print m-1 self-start font-bold"
          value={open}
          onChange={(event) => {
            const path = event.target.value;
            void go(path ? `/${area}/${path}` : `/${area}`);
          }}
        >
          {views.map(([path, name]) => (
            <option key={path} value={path}>
              {name}
            </option>
          ))}
        </select>
      ) : (
        <nav
          aria-label={title}
          className="no-print flex flex-wrap gap-x-4 border-b border-rule px-4"
        >
          {views.map(([path, name]) => (
            <NavLink
              key={path}
              to={path ? `/${area}/${path}` : `/${area}`}
              aria-current={path === open ? 'page' : undefined}
              className={`min-h-6 py-1 text-[13px] ${path === open ? 'border-b-2 border-teal font-bold' : ''}`}
            >
              {name}
            </NavLink>
          ))}
        </nav>
      )}
      <div className="min-h-0 flex-1">
        <Suspense fallback={null}>
          <Outlet />
        </Suspense>
      </div>
    </div>
  );
}
