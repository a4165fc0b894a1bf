/** One's own account: the password, and the tokens by which scripts act in one's name. */
import { ChangePasswordBody, checked, type Problem } from '@insel/contract';
import { useState, type FormEvent } from 'react';
import { call, problemOf } from '../../frame/api.js';
import { useAccount } from '../../frame/session.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
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
  const [body, setBody] = useState(EMPTY);
  const [errors, setErrors] = useState<Errors>({});
  const [problem, setProblem] = useState<Problem | null>(null);
  const [done, setDone] = useState('');
  const send = async (event: FormEvent) => {
    event.preventDefault();
    const read = checked(ChangePasswordBody, body);
    setErrors(
      read.ok
        ? {}
        : Object.fromEntries(read.complaints.map(({ field, sentence }) => [field, sentence])),
    );
    if (!read.ok) return;
    try {
      await call('POST', 'password', { body });
      setDone(
        `The password is changed; your other sessions have ended${body.tokens ? ', your tokens too' : ''}.`,
      );
      setProblem(null);
      setBody(EMPTY);
    } catch (error) {
      setProblem(problemOf(error));
      setErrors(errorsOf(problemOf(error)));
    }
  };
  const text = (field: 'old' | 'password') => ({
    type: 'password',
    value: body[field],
    onChange: (event: { target: { value: string } }) =>
      setBody({ ...body, [field]: event.target.value }),
  });
  return (
    <section aria-label="Password">
      <h2 className="mb-2 font-bold">Password</h2>
      <form onSubmit={(event) => void send(event)} className="flex max-w-[360px] flex-col gap-3">
        <Field label="The one you have" error={errors.old}>
          <input autoComplete="current-password" {...text('old')} />
        </Field>
        <Field label="The new one, at least 12 characters" error={errors.password}>
          <input autoComplete="new-password" {...text('password')} />
        </Field>
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={body.tokens}
            onChange={(event) => setBody({ ...body, tokens: event.target.checked })}
          />
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
