/** From the demo to a record of one's own: what happens, the press, and the wait until it is there. */
import type { Problem, SessionState } from '@insel/contract';
import { useState } from 'react';
import { ProblemNote } from '../../components/problem.js';
import { call, problemOf } from '../../client/api.js';
import { useAccount, useIsDemo } from '../../client/session.js';

const LOOK_MS = 500;

export function LeaveDemoPage() {
  const account = useAccount();
  const demo = useIsDemo();
  const [waiting, setWaiting] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const leave = async () => {
    setProblem(null);
    try {
      const { token } = await call<{ token: string }>('POST', 'leave-demo');
      setWaiting(true);
      location.assign((await ownRecord()).needsSetUp ? `/set-up#${token}` : '/');
    } catch (error) {
      setWaiting(false);
      setProblem(problemOf(error));
    }
  };
  return (
    <div className="h-full max-w-[640px] overflow-y-auto px-6 py-4">
      <h1 className="mb-2">Leave the demo, start mine</h1>
      {!demo && <p>This record is no demo: it is yours already.</p>}
      {demo && account.role !== 'administrator' && (
        <p>Only an administrator leaves the demo: sign in as one, or run npm start -- --empty.</p>
      )}
      {demo && account.role === 'administrator' && (
        <>
          <p>
            Insel opens a record of your own in place of the observatory: empty, but for roles and
            platforms to begin with. You make its first administrator on the next page; accounts of
            the demo do not work there.
          </p>
          <p className="mt-2">
            The demo is kept beside it as you leave it. <code>npm start -- --demo</code> shows it
            again; from now on <code>npm start</code> opens yours. Whoever else is in the demo just
            now is signed out.
          </p>
          <button
            type="button"
            className="press mt-3"
            disabled={waiting}
            onClick={() => void leave()}
          >
            Leave the demo
          </button>
          {waiting && (
            <p role="status" className="mt-2 text-faint">
              Opening your record …
            </p>
          )}
          <ProblemNote problem={problem} />
        </>
      )}
    </div>
  );
}

/** Asks until the record that answers is no demo any more. */
async function ownRecord(): Promise<SessionState> {
  for (;;) {
    await new Promise((done) => setTimeout(done, LOOK_MS));
    const session = await call<SessionState>('GET', 'session').catch(() => null);
    if (session && !session.demo) return session;
  }
}
