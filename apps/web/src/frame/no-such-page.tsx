/** An address at which there is nothing: mistyped, or of another version. */
import { Link, useLocation } from 'react-router';

export function NoSuchPage() {
  const { pathname } = useLocation();
  return (
    <div className="max-w-[640px] px-6 py-4">
      <h1 className="mb-2">There is no such page</h1>
      <p>
        Nothing stands at <span className="mono break-all">{pathname}</span>. It may be mistyped, or
        come from another version of Insel; the record is as it was.
      </p>
      <p className="mt-2">
        <kbd className="key">/</kbd> finds any page or record by name, or go to{' '}
        <Link className="act" to="/hosts">
          the hosts
        </Link>
        .
      </p>
    </div>
  );
}
