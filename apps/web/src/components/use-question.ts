import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { call } from '../frame/api.js';

/** The answer to a question that is still being typed: asked once the typing rests, the last answer kept meanwhile, also while the question cannot be asked (null). */
export function useQuestion<T>(
  path: string,
  body: object | null,
): { answer: T | undefined; fault: Error | null } {
  const text = JSON.stringify(body);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), 250);
    return () => clearTimeout(timer);
  }, [text]);
  const asked = useQuery({
    queryKey: ['asked', path, settled],
    queryFn: () => call<T>('POST', path, { body: JSON.parse(settled) as unknown }),
    enabled: settled !== 'null',
    retry: false,
    placeholderData: keepPreviousData,
  });
  return { answer: asked.data, fault: body ? asked.error : null };
}
