/** Beside every change: drawn in a plan instead of done. What is typed in the view that is open stays. */
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { MENU_ITEM } from '../components/menu-item.js';
import { useChange } from '../client/change.js';
import { useRead } from '../client/read.js';
import { useMayPlan } from '../client/session.js';
import { useStandpointInAddress } from '../client/standpoint.js';

export function DrawInstead() {
  const [{ plan, asOf }, set] = useStandpointInAddress();
  const mayPlan = useMayPlan();
  const [open, setOpen] = useState(false);
  const plans = useRead('plans', open ? {} : null);
  const { make, busy } = useChange();
  if (!mayPlan || plan || asOf) return null;
  const begin = async () => {
    const names = new Set((plans.data ?? []).map(({ name }) => name));
    let n = names.size + 1;
    while (names.has(`Plan ${n}`)) n += 1;
    const written = await make('plan.record', { name: `Plan ${n}`, purpose: '' });
    const made = written?.created.find(({ kind }) => kind === 'plan');
    if (made) set({ plan: made.id });
  };
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger
        data-draw
        aria-label="Draw instead"
        className="min-h-6 min-w-6 cursor-pointer text-pencil"
        title="What you alter becomes a step of a plan; the record stays as it is. What is typed here stays."
      >
        ✎ <span className="hidden xl:inline">Draw instead</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={8}
          className="z-50 max-h-[60vh] max-w-[320px] min-w-[220px] overflow-y-auto border border-ink bg-raised py-1"
        >
          <DropdownMenu.Label className="px-3 py-1 text-xs text-faint">
            Draw this in a plan instead of doing it
          </DropdownMenu.Label>
          <DropdownMenu.Item
            className={MENU_ITEM}
            disabled={busy || !plans.data}
            onSelect={() => void begin()}
          >
            A new plan
          </DropdownMenu.Item>
          {plans.data
            ?.filter(({ state }) => state === 'drawn')
            .map(({ id, name }) => (
              <DropdownMenu.Item key={id} className={MENU_ITEM} onSelect={() => set({ plan: id })}>
                {name}
              </DropdownMenu.Item>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
