/** What is done with the record of a sheet: first what one does here most, the rest under one menu. */
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { MENU_ITEM } from './menu-item.js';

export interface SheetAction {
  label: string;
  /** Where it leads, here or as a page of its own, or what it does. */
  to?: string;
  href?: string;
  act?: () => void;
  /** What follows from it, in a line. */
  effect?: string;
}

/** @param first beginning of the line, as the button that it is; null: nothing comes before the rest */
export function SheetActions({
  first,
  rest,
}: {
  first?: SheetAction | null;
  rest: readonly (SheetAction | false)[];
}) {
  return (
    <span className="no-print ml-auto flex items-center gap-3">
      {first?.to !== undefined && (
        <Link className="press" to={first.to}>
          {first.label}
        </Link>
      )}
      {first?.act && (
        <button type="button" className="press" onClick={first.act}>
          {first.label}
        </button>
      )}
      <ActionMenu items={rest} dataKey="m">
        More <span className="key ml-0.5 font-normal">m</span>
      </ActionMenu>
    </span>
  );
}

/** What can be done, folded behind a word. @param dataKey key that opens it */
export function ActionMenu({
  items,
  dataKey,
  children,
}: {
  items: readonly (SheetAction | false)[];
  dataKey?: string;
  children: ReactNode;
}) {
  const go = useNavigate();
  const shown = items.filter((found) => found !== false);
  const run = ({ to, act }: SheetAction) => (to === undefined ? act?.() : void go(to));
  if (shown.length === 0) return null;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger data-key={dataKey} className="act">
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 max-w-[min(430px,94vw)] border border-ink bg-raised py-1"
        >
          {shown.map((found) => (
            <DropdownMenu.Item
              key={found.label}
              aria-label={found.label}
              asChild
              onSelect={() => run(found)}
            >
              {found.href === undefined ? (
                <span className={MENU_ITEM}>
                  <Words of={found} />
                </span>
              ) : (
                <a className={MENU_ITEM} href={found.href} target="_blank" rel="noreferrer">
                  <Words of={found} />
                </a>
              )}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const Words = ({ of: { label, effect } }: { of: SheetAction }) => (
  <>
    {label}
    {effect && <span className="block text-xs text-faint">{effect}</span>}
  </>
);
