/** Everything the rules found, gravest first, what is alike told once; below it what somebody lives with. */
import { counted, kindWords, type Finding } from '@insel/core';
import { DayInput } from '../../components/iso-inputs.js';
import { FindingLine } from '../../components/finding-line.js';
import { ruleWords, SeverityWord } from '../../components/mark.js';
import { useRead } from '../../client/read.js';
import { useUrlState } from '../../client/url-state.js';

const SEVERITIES = ['blocker', 'caution', 'note'] as const;
/** What narrows the list, as the address bar has it. */
const FILTERS = ['severity', 'kind', 'rule', 'owner', 'site', 'q', 'newSince'] as const;
/** So many of one rule are shown before the rest is folded. */
const SHOWN = 6;

export function FindingsPage() {
  const [search, set] = useUrlState();
  const [severity, kind, rule, owner, site, q, since] = FILTERS.map(
    (name) => search.get(name) ?? '',
  ) as [string, string, string, string, string, string, string];
  // As the day ended: what was found on it is not new.
  const newSince = /^\d{4}-\d{2}-\d{2}$/.test(since) ? `${since}T23:59:59.999Z` : undefined;
  const oneSeverity = SEVERITIES.find((one) => one === severity);
  const answer = useRead(
    'findings',
    { severity: oneSeverity, kind, rule, owner, site, q, newSince },
    { keep: true },
  );
  const {
    findings = [],
    matching = 0,
    kinds = [],
    rules = [],
    owners = [],
    sites = [],
  } = answer.data ?? {};
  const open = findings.filter((finding) => !finding.accepted);
  const accepted = findings.filter((finding) => finding.accepted);
  const narrowed = FILTERS.some((name) => search.get(name));
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h1 className="mr-2">Findings</h1>
        <input
          aria-label="Words"
          placeholder="words"
          className="w-[150px]"
          value={q}
          onChange={(event) => set({ q: event.target.value })}
        />
        <Narrow
          label="How grave"
          any="blockers, cautions, notes"
          value={severity}
          options={SEVERITIES}
          onChange={(value) => set({ severity: value })}
        />
        <Narrow
          label="About"
          any="about anything"
          value={kind}
          options={kinds}
          words={kindWords}
          onChange={(value) => set({ kind: value })}
        />
        <Narrow
          label="Rule"
          any="any rule"
          value={rule}
          options={rules}
          words={ruleWords}
          onChange={(value) => set({ rule: value })}
        />
        {owners.length > 0 && (
          <Narrow
            label="Looked after by"
            any="by anybody"
            value={owner}
            options={owners}
            onChange={(value) => set({ owner: value })}
          />
        )}
        {sites.length > 1 && (
          <Narrow
            label="Site"
            any="at any site"
            value={site}
            options={sites}
            onChange={(value) => set({ site: value })}
          />
        )}
        <label className="text-[13px] text-faint">
          new since{' '}
          <DayInput
            style={{ width: 112 }}
            aria-label="New since the end of"
            value={since}
            onValue={(text) => set({ newSince: text })}
          />
        </label>
        {narrowed && (
          <button
            type="button"
            className="act"
            onClick={() => set(Object.fromEntries(FILTERS.map((name) => [name, ''])))}
          >
            Show all
          </button>
        )}
        {answer.data && (
          <span className="text-faint">
            {matching > findings.length
              ? `the gravest ${findings.length} of ${matching}`
              : counted(matching, 'finding')}
          </span>
        )}
      </div>
      {answer.error && <p className="text-signal">{answer.error.message}</p>}
      {answer.data && open.length === 0 && (
        <p className="text-faint">
          {narrowed
            ? 'No finding matches'
            : `The rules find nothing wrong in this record${accepted.length > 0 ? ' beside what is accepted' : ''}`}
          .
        </p>
      )}
      <div className="max-w-[900px]">
        {byRule(open).map((alike) => (
          <Alike key={alike[0]!.id} alike={alike} />
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

/** Groups of one rule and severity, in the order in which their gravest stands. */
function byRule(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = `${finding.severity}|${finding.rule}`;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()];
}

/** Findings of one rule: what follows, what to do and the source stand once, the evidence of each in a line. */
function Alike({ alike }: { alike: Finding[] }) {
  const [first, ...rest] = alike as [Finding, ...Finding[]];
  if (rest.length === 0) return <FindingLine finding={first} />;
  const same = (of: (finding: Finding) => string) =>
    rest.every((finding) => of(finding) === of(first));
  const shared = {
    consequence: same(({ consequence }) => consequence),
    remedy: same(({ remedy }) => remedy),
  };
  const lines = alike.map((finding) => (
    <FindingLine key={finding.id} finding={finding} alike={shared} />
  ));
  return (
    <section aria-label={ruleWords(first.rule)} className="border-b border-rule py-2">
      <div className="flex flex-wrap items-baseline gap-x-2">
        <SeverityWord severity={first.severity} />
        <b>{alike.length}</b>
        <span className="text-xs text-faint">{ruleWords(first.rule)}</span>
      </div>
      <p className="mb-1">
        {shared.consequence && first.consequence}{' '}
        <span className="text-faint">
          {shared.remedy && first.remedy} {first.source.text}.
        </span>
      </p>
      <div className="pl-4">
        {lines.slice(0, SHOWN)}
        {lines.length > SHOWN && (
          <details>
            <summary className="cursor-pointer py-1 text-faint">
              and {lines.length - SHOWN} more
            </summary>
            {lines.slice(SHOWN)}
          </details>
        )}
      </div>
    </section>
  );
}

function Narrow({
  label,
  any,
  value,
  options,
  words = String,
  onChange,
}: {
  label: string;
  any: string;
  value: string;
  options: readonly string[];
  words?: (option: string) => string;
  onChange: (value: string) => void;
}) {
  return (
    <select aria-label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">{any}</option>
      {options.map((option) => (
        <option key={option} value={option}>
          {words(option)}
        </option>
      ))}
    </select>
  );
}
