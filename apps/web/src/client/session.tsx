import type { Account, SessionState } from '@insel/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, type ReactNode } from 'react';
import { call, noteRevision, WINDOW } from './api.js';
import { askAgain, begun } from './marks.js';
import { useStandpoint } from './standpoint.js';

const AccountContext = createContext<Account | null>(null);
const DemoContext = createContext(false);

/** Who is signed in. */
export const useAccount = (): Account => useContext(AccountContext)!;
/** Whether the record is the demo. */
export const useIsDemo = (): boolean => useContext(DemoContext);
/** Whether what is shown may be altered: not by a reader, and never the past. */
export const useMayPlan = (): boolean => {
  const { role } = useAccount();
  return useStandpoint().asOf === '' && role !== 'reader';
};

/** The server says with the page who is signed in. */
function inThePage(): SessionState | undefined {
  const text = document.getElementById('session')?.textContent;
  return text ? (JSON.parse(text) as SessionState) : undefined;
}

/** @param entrance what is shown to whom nobody knows; with `first`, nobody has an account yet */
export function Session({
  entrance,
  children,
}: {
  entrance: (first: boolean) => ReactNode;
  children: ReactNode;
}) {
  const client = useQueryClient();
  const session = useQuery({
    queryKey: ['session'],
    queryFn: () => call<SessionState>('GET', 'session'),
    initialData: inThePage,
    staleTime: Infinity,
  });
  useEffect(() => {
    const out = () =>
      client.setQueryData<SessionState>(['session'], (held) => ({
        ...{ account: null, needsSetUp: false },
        demo: held?.demo ?? false,
      }));
    window.addEventListener('insel-signed-out', out);
    return () => window.removeEventListener('insel-signed-out', out);
  }, [client]);
  if (session.isPending) return null;
  const account = session.data?.account;
  if (!account) return entrance(session.data?.needsSetUp === true);
  return (
    <AccountContext value={account}>
      <Events />
      <DemoContext value={session.data?.demo ?? false}>{children}</DemoContext>
    </AccountContext>
  );
}

/** Follows the server's events: what somebody else alters appears by itself. */
function Events() {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource(`/api/events?window=${WINDOW}`);
    const dataOf = <T,>(event: Event): T => JSON.parse((event as MessageEvent<string>).data) as T;
    source.addEventListener('hello', (event) => begun(client, dataOf(event)));
    source.addEventListener('change', (event) => {
      const { revision, altered } = dataOf<{ revision: number; altered: string[] | 'all' }>(event);
      noteRevision(revision);
      askAgain(client, altered, revision);
    });
    source.addEventListener('signed-out', () =>
      window.dispatchEvent(new Event('insel-signed-out')),
    );
    return () => source.close();
  }, [client]);
  return null;
}
