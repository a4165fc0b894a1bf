import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type { Problem } from '@insel/contract';
import { call, problemOf } from '../../client/api.js';
import { Logo } from '../../components/logo.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

export function SignIn() {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await call('POST', 'session', { body: { name, password } });
      await client.invalidateQueries();
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <main className="mx-auto mt-24 w-[min(360px,92vw)]">
      <h1 className="mb-4 flex items-center gap-2">
        <Logo size={36} /> Insel
      </h1>
      <form onSubmit={(event) => void send(event)} className="flex flex-col gap-3">
        <Field label="Name">
          <input
            autoFocus
            autoComplete="username"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Field label="Password">
          <input
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Field>
        <ProblemNote problem={problem} />
        <button className="press self-start">Sign in</button>
        <p className="text-xs text-faint">
          The console on which Insel was started shows the demo accounts and their password.
        </p>
      </form>
    </main>
  );
}
