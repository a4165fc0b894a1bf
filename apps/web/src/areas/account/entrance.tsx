import { lazy, Suspense } from 'react';

/** Who is signed in already, as on every reload, needs neither. */
const SignIn = lazy(async () => ({ default: (await import('./sign-in.js')).SignIn }));
const SetUp = lazy(async () => ({ default: (await import('./set-up.js')).SetUp }));

/** The address that the console gives to somebody who is locked out. */
const letIn = (): boolean => location.pathname === '/set-up' && location.hash.length > 1;

/** What is shown to whom nobody knows. */
export const Entrance = ({ first }: { first: boolean }) => (
  <Suspense>{first || letIn() ? <SetUp first={first} /> : <SignIn />}</Suspense>
);
