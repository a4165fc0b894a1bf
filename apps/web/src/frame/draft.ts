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
        sessionStorage.setItem(`draft:${name}`, JSON.stringify(next));
        return next;
      }),
    [name],
  );
  const forget = useCallback(() => sessionStorage.removeItem(`draft:${name}`), [name]);
  return [value, set, forget] as const;
}
