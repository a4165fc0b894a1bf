import { SetUpBody, checked, type Problem } from '@insel/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { call, problemOf } from '../../frame/api.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

/** The first administrator of an empty record; the one-time token stands on the console. */
export function SetUp() {
  const client = useQueryClient();
  const [body, setBody] = useState({ token: location.hash.slice(1), name: '', password: '' });
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
      await call('POST', 'set-up', { body });
      await call('POST', 'session', { body: { name: body.name, password: body.password } });
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
    <main className="mx-auto mt-20 w-[420px]">
      <h1 className="mb-3">First administrator</h1>
      <form onSubmit={(event) => void send(event)} className="flex flex-col gap-3">
        <Field label="Set-up token, from the console" error={errors.token}>
          <input className="mono" {...field('token')} />
        </Field>
        <Field label="Name" error={errors.name}>
          <input autoComplete="username" {...field('name')} />
        </Field>
        <Field label="Password, at least 12 characters" error={errors.password}>
          <input type="password" autoComplete="new-password" {...field('password')} />
        </Field>
        <ProblemNote problem={problem} />
        <button className="press self-start">Begin the record</button>
      </form>
    </main>
  );
}
