import { useEffect, useState } from 'react';

/** A value once it has rested: what is still being typed is not asked at every key. */
export function useSettled<T>(value: T, ms = 250): T {
  const text = JSON.stringify(value);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), ms);
    return () => clearTimeout(timer);
  }, [text, ms]);
  return JSON.parse(settled) as T;
}
