import { SetUpBody, checked, type Problem } from '@insel/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { call, problemOf } from '../../frame/api.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

/**
 * What a one-time token from the console gives: the first administrator of an empty record, or a new password for
 * somebody who is let in.
 */
export function SetUp({ first }: { first: boolean }) {
  const client = useQueryClient();
  const [body, setBody] = useState({
    token: location.hash.slice(1),
    name: first ? '' : 'whoever the token is for',
    password: '',
  });
  const [problem, setProblem] = useState<Problem | null>(null);
  const [errors, setErrors] = useState<Errors>({});
  const send = async (event: FormEvent) => {
    event.preventDefault();
    const read = checked(SetUpBody, body);
    if (!read.ok)
      return setErrors(
        Object.fromEntries(read.complaints.map(({ field, sentence }) => [field, sentence])),
      );
    try {
      const { name } = await call<{ name: string }>('POST', 'set-up', { body });
      await call('POST', 'session', { body: { name, password: body.password } });
      history.replaceState(null, '', '/');
      await client.invalidateQueries();
    } catch (error) {
      setProblem(problemOf(error));
      setErrors(errorsOf(problemOf(error)));
    }
  };
  const field = (name: keyof typeof body) => ({
    value: body[name],
    onChange: (event: { target: { value: string } }) =>
      setBody({ ...body, [name]: event.target.value }),
  });
  return (
    <main className="mx-auto mt-20 w-[min(420px,92vw)]">
      <h1 className="mb-3">{first ? 'First administrator' : 'A new password'}</h1>
      <form onSubmit={(event) => void send(event)} className="flex flex-col gap-3">
        <Field
          label={first ? 'Set-up token, from the console' : 'Token, from the console'}
          error={errors.token}
        >
          <input className="mono" {...field('token')} />
        </Field>
        {first && (
          <Field label="Name" error={errors.name}>
            <input autoComplete="username" {...field('name')} />
          </Field>
        )}
        <Field label="Password, at least 12 characters" error={errors.password}>
          <input type="password" autoComplete="new-password" {...field('password')} />
        </Field>
        <ProblemNote problem={problem} />
        <button className="press self-start">{first ? 'Begin the record' : 'Go in'}</button>
      </form>
    </main>
  );
}
