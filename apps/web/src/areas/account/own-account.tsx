/** One's own account: the password, and the tokens by which scripts act in one's name. */
import { ChangePasswordBody } from '@insel/contract';
import { useState } from 'react';
import { call } from '../../client/api.js';
import { useAccount } from '../../client/session.js';
import { useBodyForm } from '../../components/body-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { Tokens } from './tokens.js';

export function OwnAccount() {
  const account = useAccount();
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-1">{account.name}</h1>
      <p className="mb-4 text-faint">{account.role}</p>
      <div className="grid max-w-[1000px] grid-cols-1 gap-8 lg:grid-cols-2">
        <Password />
        <Tokens />
      </div>
    </div>
  );
}

const EMPTY = { old: '', password: '', tokens: false };

function Password() {
  const [done, setDone] = useState('');
  const { form, send, problem, held, ticked } = useBodyForm(
    ChangePasswordBody,
    () => EMPTY,
    async (body) => {
      await call('POST', 'password', { body });
      const others = body.tokens ? ', your tokens too' : '';
      setDone(`The password is changed; your other sessions have ended${others}.`);
      form.reset();
    },
  );
  return (
    <section aria-label="Password">
      <h2 className="mb-2 font-bold">Password</h2>
      <form onSubmit={(event) => void send(event)} className="flex max-w-[360px] flex-col gap-3">
        <Field label="The one you have" of={held('old')}>
          <input type="password" autoComplete="current-password" />
        </Field>
        <Field label="The new one, at least 12 characters" of={held('password')}>
          <input type="password" autoComplete="new-password" />
        </Field>
        <label className="flex min-h-6 items-center gap-2">
          <input type="checkbox" {...ticked('tokens')} />
          End my tokens for scripts, too
        </label>
        <ProblemNote problem={problem} />
        <button className="press self-start">Change it</button>
        <p role="status" className="text-teal">
          {done}
        </p>
      </form>
    </section>
  );
}
