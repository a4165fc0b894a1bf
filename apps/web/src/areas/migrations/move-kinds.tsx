import { Link } from 'react-router';

/** Which way it goes: each has a form of its own. */
export function MoveKinds({ now }: { now: 'guest' | 'from' | 'onto' }) {
  const kinds = [
    ['guest', '/migrations/new', 'A guest to another host'],
    ['from', '/migrations/new-physical', 'A computer into a guest'],
    ['onto', '/migrations/new-physical?onto', 'A guest onto a computer'],
  ] as const;
  return (
    <nav aria-label="What moves" className="mb-3 flex flex-wrap gap-x-4">
      {kinds.map(([kind, to, label]) =>
        kind === now ? (
          <b key={kind} aria-current="page" className="min-h-6">
            {label}
          </b>
        ) : (
          <Link key={kind} className="act" to={to}>
            {label}
          </Link>
        ),
      )}
    </nav>
  );
}
