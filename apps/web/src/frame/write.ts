/** Making a change from a screen: one key until it succeeds, everything read anew afterwards, a toast that can undo it. */
import type { Problem, Written } from '@insel/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { toast } from 'sonner';
import { call, problemOf } from './api.js';

const QUICK_MS = 400;

export interface WriteOptions {
  method?: 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  body?: unknown;
  seen?: number;
  /** Say nothing on success; the screen itself shows it. */
  quiet?: boolean;
}

export function useWrite() {
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const key = useRef<{ of: string; key: string }>(undefined);

  const write = useCallback(
    async (
      path: string,
      {
        method = 'POST',
        body = method === 'DELETE' ? undefined : {},
        seen,
        quiet,
      }: WriteOptions = {},
    ): Promise<Written | undefined> => {
      const of = JSON.stringify([method, path, body, seen]);
      if (key.current?.of !== of) key.current = { of, key: crypto.randomUUID() };
      setBusy(true);
      try {
        const written = await call<Written>(method, path, { body, seen, key: key.current.key });
        key.current = undefined;
        setProblem(null);
        const fresh = client.invalidateQueries();
        if (!quiet && written?.title) {
          toast(capital(written.title), {
            action: {
              label: 'Undo',
              onClick: () => void undo(written.revision).then(() => client.invalidateQueries()),
            },
          });
        }
        // Whoever edits on at once must not meet the revision of before: what is shown is read anew first, as long as that is quick.
        await Promise.race([fresh, new Promise((resolve) => setTimeout(resolve, QUICK_MS))]);
        return written;
      } catch (error) {
        setProblem(problemOf(error));
        return undefined;
      } finally {
        setBusy(false);
      }
    },
    [client],
  );
  return { write, busy, problem, setProblem };
}

/** Takes back one entry of the log; says how it went. */
export async function undo(revision: number): Promise<void> {
  try {
    const written = await call<Written>('POST', `log/${revision}/undo`, {
      body: {},
      key: crypto.randomUUID(),
    });
    toast(capital(written.title));
  } catch (error) {
    const problem = problemOf(error);
    toast.error([problem.sentence, problem.remedy].filter(Boolean).join(' '));
  }
}

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
