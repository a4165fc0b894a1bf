import { AddPersonBody, checked, ROLES, type Person, type Problem } from '@insel/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../frame/api.js';
import { Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { AccountLog } from './account-log.js';
import { Tokens } from './tokens.js';

const NOBODY = { name: '', role: 'planner' as Person['role'], password: '' };

/** Who may sign in, and as what; administrators only. */
export function People() {
  const client = useQueryClient();
  const people = useQuery({ queryKey: ['people'], queryFn: () => call<Person[]>('GET', 'people') });
  const [body, setBody] = useState(NOBODY);
  const [errors, setErrors] = useState<Errors>({});
  const [problem, setProblem] = useState<Problem | null>(null);
  const send = async (method: string, path: string, value: object) => {
    try {
      await call(method, path, { body: value });
      setProblem(null);
      await client.invalidateQueries({ queryKey: ['people'] });
      return true;
    } catch (error) {
      setProblem(problemOf(error));
      return false;
    }
  };
  const add = async () => {
    const result = checked(AddPersonBody, body);
    setErrors(
      result.ok
        ? {}
        : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence])),
    );
    if (result.ok && (await send('POST', 'people', body))) setBody(NOBODY);
  };
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
      <div className="grid w-[640px] grid-cols-3 gap-3">
        <Field label="Name" error={errors.name}>
          <input
            value={body.name}
            onChange={(event) => setBody({ ...body, name: event.target.value })}
          />
        </Field>
        <Field label="Role" error={errors.role}>
          <select
            value={body.role}
            onChange={(event) => setBody({ ...body, role: event.target.value as Person['role'] })}
          >
            {ROLES.map((role) => (
              <option key={role}>{role}</option>
            ))}
          </select>
        </Field>
        <Field label="Password" error={errors.password}>
          <input
            type="password"
            autoComplete="new-password"
            value={body.password}
            onChange={(event) => setBody({ ...body, password: event.target.value })}
          />
        </Field>
      </div>
      <button type="button" className="press mt-3" onClick={() => void add()}>
        Add
      </button>
      <div className="mt-8 grid grid-cols-1 gap-8 xl:grid-cols-[420px_1fr]">
        <Tokens everybody />
        <AccountLog />
      </div>
    </div>
  );
}
