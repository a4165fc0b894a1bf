import { SetUpBody } from '@insel/contract';
import { useQueryClient } from '@tanstack/react-query';
import { call } from '../../client/api.js';
import { useBodyForm } from '../../components/body-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

/**
 * What a one-time token from the console gives: the first administrator of an empty record, or a new password for
 * somebody who is let in.
 */
export function SetUp({ first }: { first: boolean }) {
  const client = useQueryClient();
  const begin = () => ({
    token: location.hash.slice(1),
    name: first ? '' : 'whoever the token is for',
    password: '',
  });
  const { held, send, problem } = useBodyForm(SetUpBody, begin, async (body) => {
    const { name } = await call<{ name: string }>('POST', 'set-up', { body });
    await call('POST', 'session', { body: { name, password: body.password } });
    history.replaceState(null, '', '/');
    await client.invalidateQueries();
  });
  return (
    <main className="mx-auto mt-20 w-[min(420px,92vw)]">
      <h1 className="mb-3">{first ? 'First administrator' : 'A new password'}</h1>
      <form onSubmit={(event) => void send(event)} className="flex flex-col gap-3">
        <Field
          label={first ? 'Set-up token, from the console' : 'Token, from the console'}
          of={held('token')}
        >
          <input className="mono" />
        </Field>
        {first && (
          <Field label="Name" of={held('name')}>
            <input autoComplete="username" />
          </Field>
        )}
        <Field label="Password, at least 12 characters" of={held('password')}>
          <input type="password" autoComplete="new-password" />
        </Field>
        <ProblemNote problem={problem} />
        <button className="press self-start">{first ? 'Begin the record' : 'Go in'}</button>
      </form>
    </main>
  );
}
