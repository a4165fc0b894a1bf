/** Tokens for scripts: one's own, and for an administrator everybody's. One is shown once, when it is made. */
import type { ApiToken, Problem } from '@insel/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { call, problemOf } from '../../client/api.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

export function Tokens({ everybody = false }: { everybody?: boolean }) {
  const client = useQueryClient();
  const tokens = useQuery({
    queryKey: ['tokens'],
    queryFn: () => call<ApiToken[]>('GET', 'tokens'),
  });
  const [label, setLabel] = useState('');
  const [made, setMade] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const send = async <T,>(method: string, path: string, body?: object): Promise<T | undefined> => {
    try {
      const answer = await call<T>(method, path, { body });
      setProblem(null);
      await client.invalidateQueries({ queryKey: ['tokens'] });
      return answer;
    } catch (error) {
      setProblem(problemOf(error));
      return undefined;
    }
  };
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const answer = await send<{ token: string }>('POST', 'tokens', { label });
    if (!answer) return;
    setMade(answer.token);
    setLabel('');
  };
  const shown = tokens.data?.filter(({ mine }) => everybody || mine) ?? [];
  return (
    <section aria-label="Tokens for scripts">
      <h2 className="mb-2 font-bold">Tokens for scripts</h2>
      {shown.length === 0 && tokens.data && (
        <p className="text-faint">
          {everybody
            ? 'Nobody has one.'
            : 'You have none. A script that has one may do what you may.'}
        </p>
      )}
      {shown.length > 0 && (
        <table className="mb-3 w-full text-left">
          <thead className="text-xs text-faint">
            <tr>
              <th>For</th>
              {everybody && <th>Of</th>}
              <th>Made</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {shown.map((token) => (
              <tr key={token.id} className="border-t border-rule">
                <td className="py-1">{token.label}</td>
                {everybody && <td>{token.owner}</td>}
                <td className="mono">{token.createdAt.slice(0, 10)}</td>
                <td className="text-right">
                  <button
                    type="button"
                    className="act"
                    aria-label={`Revoke the token ${token.label}`}
                    onClick={() => void send('DELETE', `tokens/${token.id}`)}
                  >
                    Revoke
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!everybody && (
        <form onSubmit={(event) => void add(event)} className="flex max-w-[360px] flex-col gap-3">
          <Field label="A new one, for">
            <input
              placeholder="nightly export"
              value={label}
              onChange={(event) => setLabel(event.target.value)}
            />
          </Field>
          <button className="press self-start" disabled={label.trim() === ''}>
            Make it
          </button>
        </form>
      )}
      {made && (
        <p className="mt-3" role="status">
          It is shown this once, in a header “Authorization: Bearer …”:
          <code className="mono mt-1 block border border-rule p-2 break-all">{made}</code>
        </p>
      )}
      <ProblemNote problem={problem} />
    </section>
  );
}
