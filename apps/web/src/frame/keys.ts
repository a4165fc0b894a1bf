import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { AREAS } from './areas.js';
import { because, sayBecause } from '../client/because.js';
import { undoMine } from './undo-mine.js';

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** A menu listens to keys and pointers, not to clicks. */
const press = (element: HTMLElement | null): void => {
  // A menu opens beside its word, which may be scrolled away.
  element?.scrollIntoView({ block: 'nearest' });
  if (element?.ariaHasPopup === 'menu')
    element.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
  else element?.click();
};

/** Keys that work everywhere but in a field. */
export function useKeys(showHelp: () => void): void {
  const go = useNavigate();
  const { pathname } = useLocation();
  const client = useQueryClient();
  useEffect(() => {
    const area = AREAS.find(({ path }) => pathname.startsWith(`/${path}`));
    const focus = (selector: string, click = false) => {
      const found = document.querySelector<HTMLElement>(selector);
      found?.focus();
      if (click) found?.click();
    };
    const onKey = (event: KeyboardEvent) => {
      if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const actions: Record<string, () => void> = {
        '/': () => focus('[data-search]'),
        '?': showHelp,
        n: () => area?.make && void go(area.make),
        e: () => focus('[data-editable]', true),
        w: () => focus('main [data-figure]', true),
        d: () => press(document.querySelector<HTMLElement>('[data-draw]')),
        y: () => sayBecause(because() ?? ''),
        f: () => void go('/findings'),
        '.': () => press(document.querySelector<HTMLElement>('[data-more]')),
        u: () => void undoMine().then(() => client.invalidateQueries()),
      };
      AREAS.forEach(({ path }, i) => (actions[String(i + 1)] = () => void go(`/${path}`)));
      // A page gives an action of its own a key by saying it there.
      const own = document.querySelector<HTMLElement>(`main [data-key="${CSS.escape(event.key)}"]`);
      const action = actions[event.key] ?? (own && (() => press(own)));
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [go, pathname, showHelp, client]);
}

export const KEY_HELP: [string, string][] = [
  ['/', 'search, or do anything'],
  [`1 … ${AREAS.length}`, 'areas in the order of work'],
  ['↑ ↓ Home End Page', 'rows of a list'],
  ['Enter', 'open the row; keep an edit'],
  ['x', 'choose the row, to edit several at once'],
  ['Shift x', 'choose all from the last chosen row to this one'],
  ['Esc', 'drop an edit; close'],
  ['n', 'new here'],
  ['e', 'edit the first value of the sheet; Tab goes on'],
  ['w', 'workings of the first figure; Tab goes on'],
  ['d', 'draw what you are about to alter in a plan instead'],
  ['y', 'say why, for all I do from here on'],
  ['f', 'findings'],
  ['m', 'more to do with the open sheet'],
  ['u', 'undo my last change'],
  ['.', 'more: people, light, sign out'],
  ['?', 'these keys'],
];
