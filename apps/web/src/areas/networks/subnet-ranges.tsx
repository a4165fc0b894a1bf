/** Ranges of a subnet: given out by others, kept free, or those that single addresses are taken from. */
import type { SubnetView } from '@insel/contract';
import type { Row } from '@insel/core';
import { useMayPlan } from '../../client/session.js';
import { useChange } from '../../client/change.js';
import { errorsOf } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';

export interface RangeDraft {
  use: Row<'range'>['use'];
  firstIp: string;
  lastIp: string;
}

export function Ranges({
  subnet,
  range,
  setRange,
}: {
  subnet: SubnetView;
  range: RangeDraft | null;
  setRange: (range: RangeDraft | null) => void;
}) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const errors = errorsOf(problem);
  if (!mayPlan) return null;
  const field = (name: keyof RangeDraft) => ({
    value: range![name],
    onChange: (event: { target: { value: string } }) =>
      setRange({ ...range!, [name]: event.target.value }),
  });
  const send = async () => {
    if (await make('range.record', { subnetId: subnet.id, ...range! })) setRange(null);
  };
  return (
    <div className="my-1 text-[13px]">
      {subnet.ranges.map((found) => (
        <div key={found.id}>
          {found.use}{' '}
          <span className="mono">
            {found.firstIp} – {found.lastIp}
          </span>{' '}
          {found.purpose}{' '}
          <button
            type="button"
            className="act"
            onClick={() => void make('range.remove', { id: found.id }, { seen: found })}
          >
            Remove
          </button>
        </div>
      ))}
      {range ? (
        <div className="flex flex-wrap items-center gap-2">
          <select aria-label="Use of the range" {...field('use')}>
            <option>dynamic</option>
            <option>reserved</option>
            <option>static</option>
          </select>
          <input
            aria-label="First address"
            placeholder="first"
            className="mono w-[130px]"
            aria-invalid={Boolean(errors.firstIp)}
            {...field('firstIp')}
          />
          <input
            aria-label="Last address"
            placeholder="last"
            className="mono w-[130px]"
            aria-invalid={Boolean(errors.lastIp)}
            {...field('lastIp')}
          />
          <button type="button" className="act" onClick={() => void send()}>
            Keep
          </button>
          <button type="button" className="act" onClick={() => setRange(null)}>
            Drop
          </button>
        </div>
      ) : (
        <button
          type="button"
          className="act"
          onClick={() => setRange({ use: 'dynamic', firstIp: '', lastIp: '' })}
        >
          Set apart a range
        </button>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
