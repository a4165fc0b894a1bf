import { AddPersonBody, ROLES, type Person, type Problem } from '@insel/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../client/api.js';
import { useBodyForm } from '../../components/body-form.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { AccountLog } from './account-log.js';
import { Tokens } from './tokens.js';

const NOBODY = { name: '', role: 'planner' as Person['role'], password: '' };

/** Who may sign in, and as what; administrators only. */
export function People() {
  const client = useQueryClient();
  const people = useQuery({ queryKey: ['people'], queryFn: () => call<Person[]>('GET', 'people') });
  const [problem, setProblem] = useState<Problem | null>(null);
  const send = async (method: string, path: string, value: object) => {
    try {
      await call(method, path, { body: value });
      setProblem(null);
      await client.invalidateQueries({ queryKey: ['people'] });
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const adding = useBodyForm(
    AddPersonBody,
    () => NOBODY,
    async (body) => {
      await call('POST', 'people', { body });
      await client.invalidateQueries({ queryKey: ['people'] });
      adding.form.reset();
    },
  );
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-3">People</h1>
      <ProblemNote problem={problem ?? (people.error ? problemOf(people.error) : null)} />
      <table className="mb-6 w-[640px] text-left">
        <thead className="text-xs text-faint">
          <tr>
            <th>Name</th>
            <th>Role</th>
            <th>May sign in</th>
          </tr>
        </thead>
        <tbody>
          {people.data?.map((person) => (
            <tr key={person.id} className="border-t border-rule">
              <td className="py-1">{person.name}</td>
              <td>
                <select
                  aria-label={`Role of ${person.name}`}
                  value={person.role}
                  onChange={(event) =>
                    void send('PATCH', `people/${person.id}`, { role: event.target.value })
                  }
                >
                  {ROLES.map((role) => (
                    <option key={role}>{role}</option>
                  ))}
                </select>
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`${person.name} may sign in`}
                  checked={person.active}
                  onChange={(event) =>
                    void send('PATCH', `people/${person.id}`, { active: event.target.checked })
                  }
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mb-2 font-bold">Add a person</h2>
      <form className="w-[640px]" onSubmit={(event) => void adding.send(event)}>
        <div className="grid grid-cols-3 gap-3">
          <Field label="Name" of={adding.held('name')}>
            <input />
          </Field>
          <Field label="Role" of={adding.held('role')}>
            <select>
              {ROLES.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </select>
          </Field>
          <Field label="Password" of={adding.held('password')}>
            <input type="password" autoComplete="new-password" />
          </Field>
        </div>
        <ProblemNote problem={adding.problem} />
        <button className="press mt-3">Add</button>
      </form>
      <div className="mt-8 grid grid-cols-1 gap-8 xl:grid-cols-[420px_1fr]">
        <Tokens everybody />
        <AccountLog />
      </div>
    </div>
  );
}
