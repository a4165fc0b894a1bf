import type { Account, SessionState } from '@insel/contract';
import type { Config } from '../config.js';
import { accountOfRequest, type SignedIn } from './guard.js';
import type { People } from './people.js';
import type { Sessions } from './sessions.js';

export const sessionFor = async (
  people: People,
  { demo }: Pick<Config, 'demo'>,
  account: Account | undefined,
): Promise<SessionState> => ({
  account: account ?? null,
  needsSetUp: account ? false : !(await people.anyAdministrator()),
  demo,
});

/** Of a request that no guard has looked at. */
export const sessionOf = async (
  people: People,
  sessions: Sessions,
  config: Pick<Config, 'demo'>,
  request: SignedIn,
): Promise<SessionState> => sessionFor(people, config, await accountOfRequest(sessions, request));
