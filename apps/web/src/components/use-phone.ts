import { useSyncExternalStore } from 'react';

/** As wide as a telephone held upright; the same bound as `md:` in styles. */
const NARROW = '(max-width: 767px)';
const WIDE = '(min-width: 1180px)';

const subscribeTo =
  (bound: string) =>
  (listener: () => void): (() => void) => {
    const query = matchMedia(bound);
    query.addEventListener('change', listener);
    return () => query.removeEventListener('change', listener);
  };
const [toNarrow, toWide] = [subscribeTo(NARROW), subscribeTo(WIDE)];

/** Whether there is the width of a phone only: lists become rows of two lines, navigation folds. */
export const usePhone = (): boolean =>
  useSyncExternalStore(toNarrow, () => matchMedia(NARROW).matches);

/** Whether there is room for every column of a list. */
export const useWide = (): boolean => useSyncExternalStore(toWide, () => matchMedia(WIDE).matches);
