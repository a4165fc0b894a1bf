import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useRead } from '../../frame/read.js';

/** Lineage as a family line: each origin, its clones hanging from it in the order they were made, with what is open. */
export function Clones() {
  const lines = useRead('clones');
  const mayPlan = useMayPlan();
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <div className="mb-3 flex items-baseline gap-4">
        <h1>Clones</h1>
        {mayPlan && (
          <Link className="act ml-auto" to="/clones/new">
            Make clones
          </Link>
        )}
      </div>
      {lines.data?.length === 0 && (
        <p className="text-faint">
          A clone is the same machine twice until it has an identity of its own; here you see which
          still lack one.{' '}
          {mayPlan && (
            <Link className="act" to="/clones/new">
              Make clones
            </Link>
          )}
        </p>
      )}
      {lines.data?.map((line) => (
        <section key={line.origin.id} aria-label={`Line of ${line.origin.name}`} className="mb-5">
          <h2 className="border-b border-ink pb-1 font-bold">
            <Link to={`/guests/${line.origin.id}`}>{line.origin.name}</Link>{' '}
            <span className="font-normal text-faint">
              {line.origin.template ? 'template, ' : ''}
              {line.origin.state}
            </span>
          </h2>
          <ol className="ml-3 border-l border-ink">
            {line.clones.map((clone) => (
              <li
                key={clone.id}
                className="relative grid grid-cols-[150px_100px_90px_90px_1fr] items-baseline gap-3 border-b border-rule py-1 pl-6"
              >
                <span aria-hidden className="absolute top-1/2 left-0 w-4 border-t border-ink" />
                <Link
                  className="font-bold underline decoration-rule"
                  to={`/guests/${clone.guest.id}`}
                >
                  {clone.guest.name}
                </Link>
                <span className={clone.state === 'planned' ? 'text-pencil' : ''}>
                  {clone.state}
                </span>
                <span>{clone.host.name}</span>
                <span className="text-faint">{clone.madeAt.slice(0, 10)}</span>
                <span>
                  {clone.open.length === 0 ? (
                    'identity its own'
                  ) : (
                    <>
                      <span className={clone.state === 'in service' ? 'font-bold text-amber' : ''}>
                        {clone.state === 'in service' ? '◆ ' : ''}
                        {clone.open.length} of {clone.items} open
                      </span>{' '}
                      <span className="text-faint">
                        {clone.open.slice(0, 3).join(', ')}
                        {clone.open.length > 3 && ' …'}
                      </span>
                    </>
                  )}
                </span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
