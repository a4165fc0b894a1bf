import { useFindings } from '../../frame/waterline.js';
import { FindingLine } from '../../components/mark.js';

/** Everything the rules found, gravest first; below it what somebody lives with. */
export function FindingsPage() {
  const findings = useFindings();
  const all = findings.data?.findings ?? [];
  const accepted = all.filter((finding) => finding.accepted);
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-2">Findings</h1>
      {findings.error && <p className="text-signal">{findings.error.message}</p>}
      {findings.data && all.length === accepted.length && (
        <p className="text-faint">
          The rules find nothing wrong in this record
          {accepted.length > 0 && ' beside what is accepted'}.
        </p>
      )}
      <div className="max-w-[900px]">
        {all
          .filter((finding) => !finding.accepted)
          .map((finding) => (
            <FindingLine key={finding.id} finding={finding} />
          ))}
        {accepted.length > 0 && (
          <details className="mt-4">
            <summary className="cursor-pointer font-bold">
              Accepted for a while: {accepted.length}
            </summary>
            {accepted.map((finding) => (
              <FindingLine key={finding.id} finding={finding} />
            ))}
          </details>
        )}
      </div>
    </div>
  );
}
