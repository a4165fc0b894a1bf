/** Plans beside the open one: changes in pencil, what they come to, and carrying them out. */
import { Link, useParams } from 'react-router';
import { Area } from '../../components/area.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { PlanList, BeginPlan } from './plan-list.js';
import { Sheet } from './plan-sheet.js';

export function Plans() {
  const { id } = useParams();
  const plans = useRead('plans');
  const mayPlan = useMayPlan();
  return (
    <Area
      width={400}
      list={
        <div className="h-full overflow-y-auto px-4 py-3">
          <h1>Plans</h1>
          <p className="mb-2 text-faint">
            A plan is drawn in pencil over the record: open it, alter what you like in any view, and
            see what would be. Nothing is done before it is carried out.
          </p>
          <p className="mb-3">
            <Link className="act" to="/plans/moves">
              Find moves
            </Link>{' '}
            <span className="text-faint">that empty a host, free one, or even out</span>
            <br />
            <Link className="act" to="/plans/place">
              Place new guests
            </Link>{' '}
            <span className="text-faint">many at once, by hosts, evenness or licences</span>
            <br />
            <Link className="act" to="/plans/growth">
              When it runs out
            </Link>{' '}
            <span className="text-faint">by the history of the record, and what to buy</span>
          </p>
          {plans.error && <p className="text-signal">{plans.error.message}</p>}
          <PlanList plans={plans.data ?? []} openId={id ?? ''} />
          {mayPlan && <BeginPlan />}
        </div>
      }
      sheet={id ? <Open key={id} id={id} /> : null}
    />
  );
}

function Open({ id }: { id: string }) {
  const { data, error } = useRead('plan', { id }, { keep: true });
  if (error) return <p className="text-signal">{error.message}</p>;
  return data ? <Sheet sheet={data} /> : null;
}
