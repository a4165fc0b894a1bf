import type { Account, SessionState } from '@insel/contract';
import { accountOfRequest, type SignedIn } from './guard.js';
import type { People } from './people.js';
import type { Sessions } from './sessions.js';

export const sessionFor = async (
  people: People,
  account: Account | undefined,
): Promise<SessionState> => ({
  account: account ?? null,
  needsSetUp: account ? false : !(await people.anyAdministrator()),
});

/** Of a request that no guard has looked at. */
export const sessionOf = async (
  people: People,
  sessions: Sessions,
  request: SignedIn,
): Promise<SessionState> => sessionFor(people, await accountOfRequest(sessions, request));
