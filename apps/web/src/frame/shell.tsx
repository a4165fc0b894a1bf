import { useQueryClient } from '@tanstack/react-query';
import { Dialog, DropdownMenu } from 'radix-ui';
import { lazy, Suspense, useCallback, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { MENU_ITEM } from '../components/menu-item.js';
import { usePhone } from '../components/use-phone.js';
import { Logo } from '../components/logo.js';
import { AREAS } from './areas.js';
import { call } from '../client/api.js';
import { KEY_HELP, useKeys } from './keys.js';
import { AsOf } from './as-of.js';
import { sayBecause } from '../client/because.js';
import { BecauseBand } from './because-band.js';
import { DrawInstead } from './draw-instead.js';
import { InPlan } from '../client/in-plan.js';
import { DatabaseAway } from './database-away.js';
import { useAccount, useIsDemo, useMayPlan } from '../client/session.js';
import { switchLight } from './theme.js';
import { Waterline } from './waterline.js';

const Search = lazy(async () => ({ default: (await import('./search.js')).Search }));

export function Shell() {
  const [help, setHelp] = useState(false);
  useKeys(useCallback(() => setHelp(true), []));
  const phone = usePhone();
  return (
    <div className="flex h-full flex-col">
      <header className="no-print flex min-h-[46px] flex-wrap items-center gap-x-3 border-b border-ink px-3 md:gap-x-5 md:px-5">
        <Link to="/hosts" className="flex items-center gap-2 text-[17px] font-bold">
          <Logo size={28} /> <span className="hidden md:inline">Insel</span>
          <span className="sr-only md:hidden">Insel</span>
        </Link>
        {phone ? (
          <AreaMenu />
        ) : (
          <nav aria-label="Areas" className="flex flex-wrap gap-x-5">
            {AREAS.map((area) => (
              <NavLink
                key={area.path}
                to={`/${area.path}`}
                className={({ isActive }) =>
                  `border-b-4 pt-3 pb-2 ${isActive ? 'border-teal font-bold' : 'border-transparent'}`
                }
              >
                {area.title}
              </NavLink>
            ))}
          </nav>
        )}
        <Suspense
          fallback={
            <input
              data-search
              aria-label="Find or do"
              className="ml-auto w-[120px] md:w-[180px] xl:w-[230px]"
            />
          }
        >
          <Search />
        </Suspense>
        <DrawInstead />
        <AccountMenu showKeys={() => setHelp(true)} />
      </header>
      <DatabaseAway />
      <AsOf />
      <InPlan />
      <BecauseBand />
      <main className="min-h-0 flex-1">
        <Suspense fallback={null}>
          <Outlet />
        </Suspense>
      </main>
      <Waterline />
      <Dialog.Root open={help} onOpenChange={setHelp}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-ink/20" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed top-24 left-1/2 w-[min(460px,94vw)] -translate-x-1/2 border border-ink bg-raised p-5"
          >
            <Dialog.Title className="mb-2 font-bold">Keys</Dialog.Title>
            <dl className="grid grid-cols-[150px_1fr] gap-y-1">
              {KEY_HELP.map(([key, text]) => (
                <div key={key} className="contents">
                  <dt>
                    <span className="key">{key}</span>
                  </dt>
                  <dd>{text}</dd>
                </div>
              ))}
            </dl>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </div>
  );
}

/** The areas folded behind the one that is open. */
function AreaMenu() {
  const { pathname } = useLocation();
  const go = useNavigate();
  const open = AREAS.find(({ path }) => pathname.split('/')[1] === path);
  return (
    <select
      aria-label="Areas"
      className="font-bold"
      value={open?.path ?? ''}
      onChange={(event) => void go(`/${event.target.value}`)}
    >
      {!open && <option value="">Areas</option>}
      {AREAS.map(({ path, title }) => (
        <option key={path} value={path}>
          {title}
        </option>
      ))}
    </select>
  );
}

function AccountMenu({ showKeys }: { showKeys: () => void }) {
  const account = useAccount();
  const demo = useIsDemo();
  const mayPlan = useMayPlan();
  const client = useQueryClient();
  const go = useNavigate();
  const signOut = async () => {
    await call('DELETE', 'session');
    client.clear();
    location.assign('/');
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger data-more className="cursor-pointer font-bold">
        {account.name}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={8}
          className="z-50 min-w-[200px] border border-ink bg-raised py-1"
        >
          <div className="px-3 py-1 text-xs text-faint">{account.role}</div>
          {mayPlan && (
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => sayBecause('')}>
              Say why, for all I do from here on
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void go('/account')}>
            Password and tokens
          </DropdownMenu.Item>
          {account.role === 'administrator' && (
            <>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void go('/people')}>
                People
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void go('/server')}>
                The server
              </DropdownMenu.Item>
              <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void go('/this-machine')}>
                Record this machine
              </DropdownMenu.Item>
              {demo && (
                <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void go('/leave-demo')}>
                  Leave the demo, start mine
                </DropdownMenu.Item>
              )}
            </>
          )}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={switchLight}>
            Day or night
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={showKeys}>
            Keys
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void signOut()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
