/** Two plans beside each other and beside the record as it is. */
import type { PlanBeside, PlansCompared } from '@insel/contract';
import { counted } from '@insel/core';
import { useState } from 'react';
import { FindingLine } from '../../components/finding-line.js';
import { useRead } from '../../client/read.js';
import { NamedSelect } from '../../components/named-select.js';

export function Compared({ planId }: { planId: string }) {
  const [other, setOther] = useState('');
  const plans = (useRead('plans').data ?? []).filter(({ id }) => id !== planId);
  const found = useRead('plansCompared', other ? { id: planId, other } : null, { keep: true }).data;
  if (plans.length === 0)
    return <p className="text-faint">There is no other plan. Copy this one to try another way.</p>;
  return (
    <>
      <label>
        Beside{' '}
        <NamedSelect
          value={other}
          onChange={(event) => setOther(event.target.value)}
          rows={plans}
          none="no other plan"
        />
      </label>
      {other && found?.other.id === other && <Both found={found} />}
    </>
  );
}

function Both({ found: { now, one, other } }: { found: PlansCompared }) {
  const level = (levels: PlansCompared['now']['levels'], i: number) => {
    const { place, taken } = levels[i]!;
    return place && taken?.value != null ? `${place.name} ${Math.round(taken.value)} %` : 'nothing';
  };
  const rows: [string, string, string, string][] = [
    ['Steps', '', stepsOf(one), stepsOf(other)],
    ...now.levels.map(({ resource }, i): [string, string, string, string] => [
      `Tightest ${resource}`,
      level(now.levels, i),
      level(one.after, i),
      level(other.after, i),
    ]),
    [
      'Hosts that may fail',
      `${now.mayFail} of ${now.hosts}`,
      String(one.mayFail),
      String(other.mayFail),
    ],
  ];
  return (
    <>
      <table className="mt-2 w-full max-w-[760px] text-left text-[13px]">
        <thead>
          <tr className="border-b border-ink text-xs">
            <th />
            <th>As it is</th>
            <th>{one.name}</th>
            <th>{other.name}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([title, is, a, b]) => (
            <tr key={title} className="border-b border-rule">
              <th scope="row" className="font-normal text-faint">
                {title}
              </th>
              <td className="mono">{is}</td>
              {[a, b].map((text, i) => (
                <td key={i} className={`mono ${text === is ? '' : 'text-pencil'}`}>
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {[one, other].map((plan) => (
        <OnlyHere key={plan.id} plan={plan} />
      ))}
    </>
  );
}

const stepsOf = ({ steps, refused }: PlanBeside): string =>
  refused > 0 ? `${steps}, ${refused} can no longer be done` : String(steps);

/** Findings that one of both brings, or takes away, and the other does not. */
function OnlyHere({ plan: { name, appearing, vanishing } }: { plan: PlanBeside }) {
  if (appearing.length + vanishing.length === 0) return null;
  return (
    <section className="mt-2">
      <h3 className="font-bold">Only with {name}</h3>
      {appearing.map((finding) => (
        <FindingLine key={finding.id} brief finding={{ ...finding, mend: undefined }} />
      ))}
      {vanishing.length > 0 && (
        <p>
          {counted(vanishing.length, 'finding vanishes', 'findings vanish')}:{' '}
          {vanishing.map(({ evidence }) => evidence).join(' ')}
        </p>
      )}
    </section>
  );
}
