import { useCallback, useState } from 'react';

/** What is being typed in a long form, kept in this tab until it is sent: a reload or a lost connection loses nothing. */
export function useDraft<T extends object>(name: string, initial: () => T) {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = sessionStorage.getItem(`draft:${name}`);
      return kept ? { ...initial(), ...(JSON.parse(kept) as T) } : initial();
    } catch {
      return initial();
    }
  });
  const set = useCallback(
    (change: Partial<T>) =>
      setValue((held) => {
        const next = { ...held, ...change };
        keep(`draft:${name}`, next);
        return next;
      }),
    [name],
  );
  const forget = useCallback(() => sessionStorage.removeItem(`draft:${name}`), [name]);
  return [value, set, forget] as const;
}

/** A text that is too long for the tab's storage is not kept through a reload; it is still here. */
function keep(name: string, value: object): void {
  try {
    sessionStorage.setItem(name, JSON.stringify(value));
  } catch {
    sessionStorage.removeItem(name);
  }
}
