import { useSyncExternalStore } from 'react';

/** As wide as a telephone held upright; the same bound as `md:` in styles. */
const NARROW = '(max-width: 767px)';

const subscribe = (told: () => void): (() => void) => {
  const query = matchMedia(NARROW);
  query.addEventListener('change', told);
  return () => query.removeEventListener('change', told);
};

/** Whether there is the width of a phone only: lists become rows of two lines, navigation folds. */
export const usePhone = (): boolean =>
  useSyncExternalStore(subscribe, () => matchMedia(NARROW).matches);
