import { useFindings } from '../../frame/waterline.js';
import { FindingLine } from '../../ink/mark.js';

/** Everything the rules found, gravest first. */
export function FindingsPage() {
  const findings = useFindings();
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-2">Findings</h1>
      {findings.error && <p className="text-signal">{findings.error.message}</p>}
      {findings.data?.findings.length === 0 && (
        <p className="text-faint">The rules find nothing wrong in this record.</p>
      )}
      <div className="max-w-[900px]">
        {findings.data?.findings.map((finding) => (
          <FindingLine key={finding.id} finding={finding} />
        ))}
      </div>
    </div>
  );
}
