import type { Account, SessionState } from '@insel/contract';
import type { Accounts } from './accounts.js';
import { accountOfRequest, type SignedIn } from './guard.js';

export const sessionFor = async (
  accounts: Accounts,
  account: Account | undefined,
): Promise<SessionState> => ({
  account: account ?? null,
  needsSetUp: account ? false : !(await accounts.anyAdministrator()),
});

/** Of a request that no guard has looked at. */
export const sessionOf = async (accounts: Accounts, request: SignedIn): Promise<SessionState> =>
  sessionFor(accounts, await accountOfRequest(accounts, request));
