import type { Preview } from '@insel/contract';
import { printValue, type Finding } from '@insel/core';
import { Gauge } from './gauge.js';
import { FindingLine } from './finding-line.js';
import { Figure, Workings } from './workings.js';

/** What a change would do: objections with the figure that fails, levels before and after, findings. */
export function Consequences({
  preview,
  planning,
}: {
  preview: Preview | undefined;
  planning: boolean;
}) {
  if (!preview)
    return (
      <p className="text-faint">Fill in the form: what follows from it appears here as you type.</p>
    );
  const objections = preview.objections;
  return (
    <div>
      <h2 className="font-bold text-pencil">
        {objections.length
          ? planning
            ? 'This plan meets objections'
            : 'This cannot be recorded yet'
          : planning
            ? 'This fits'
            : 'What this does'}
      </h2>
      {objections.map((objection, i) => (
        <div key={i} className="border-b border-rule py-2">
          <p>
            <span className="font-bold text-signal">
              ■ {objection.overridable ? 'Objection' : 'Not possible'}.
            </span>{' '}
            {objection.sentence} <span className="text-faint">{objection.remedy}</span>
          </p>
          {objection.figure && <Workings figure={objection.figure} rounding="down" />}
        </div>
      ))}
      {preview.places.length > 0 && (
        <table className="mt-2 w-full text-[13px]">
          <thead>
            <tr className="text-left text-xs text-faint">
              <th>Left on</th>
              <th className="text-right">now</th>
              <th className="text-right text-pencil">then</th>
            </tr>
          </thead>
          <tbody>
            {preview.places.map((place) => (
              <tr key={place.name} className="border-t border-rule">
                <td className="py-1">{place.name}</td>
                <td className="text-right">
                  <Figure figure={place.before} rounding={roundingOf(place.before)} />
                </td>
                <td className="text-right text-pencil">
                  <Figure figure={place.after} rounding={roundingOf(place.after)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Levels preview={preview} />
      {preview.appearing.length > 0 && (
        <h3 className="mt-3 text-xs font-bold text-faint">Findings that appear</h3>
      )}
      <ByCause findings={preview.appearing} />
      {preview.vanishing.length > 0 && (
        <h3 className="mt-3 text-xs font-bold text-faint">Findings that vanish</h3>
      )}
      <ByCause findings={preview.vanishing} />
    </div>
  );
}

/** Levels that move, or whose tightest place is another one; what stays as it is is said once. */
function Levels({ preview: { before, after } }: { preview: Preview }) {
  const pairs = before.map((level, i) => [level, after[i]] as const);
  const said = (value: number | null | undefined) =>
    value == null ? '–' : printValue(value, 'percent');
  const moved = pairs.filter(
    ([level, then]) =>
      then &&
      (said(level.taken?.value) !== said(then.taken?.value) || level.place?.id !== then.place?.id),
  );
  if (moved.length === 0)
    return before.length === 0 ? null : (
      <p className="mt-3 text-[13px] text-faint">The tightest places stay as they are.</p>
    );
  return (
    <>
      <h3 className="mt-3 text-xs font-bold text-faint">
        Tightest places that move: ink is now, pencil is then
      </h3>
      {moved.map(([level, then]) => (
        <div key={level.resource} className="mt-1">
          <div className="flex justify-between gap-3 text-[13px]">
            <span>{level.resource}</span>
            <span className="mono">
              {level.place?.name} {said(level.taken?.value)}
              <span className="text-pencil">
                {' '}
                → {then?.place?.id === level.place?.id ? '' : `${then?.place?.name} `}
                {said(then?.taken?.value)}
              </span>
            </span>
          </div>
          <Gauge
            label={level.resource}
            percent={level.taken?.value ?? 0}
            after={then?.taken?.value}
          />
        </div>
      ))}
    </>
  );
}

/** One line for each rule: a batch makes the same finding many times, which is read once. */
function ByCause({ findings }: { findings: readonly Finding[] }) {
  const byRule = new Map<string, Finding[]>();
  for (const finding of findings)
    byRule.set(finding.rule, [...(byRule.get(finding.rule) ?? []), finding]);
  return [...byRule.values()].map(([first, ...alike]) => (
    <div key={first!.id}>
      <FindingLine finding={first!} brief />
      {alike.length > 0 && (
        <details className="border-b border-rule pb-1 text-[13px]">
          <summary className="cursor-pointer text-faint">and {alike.length} alike</summary>
          {alike.map((finding) => (
            <FindingLine key={finding.id} finding={finding} brief />
          ))}
        </details>
      )}
    </div>
  ));
}

/** What is left is rounded down, how full something is up: neither promises what the bytes refuse. */
const roundingOf = ({ unit }: { unit: string }) => (unit === 'percent' ? 'up' : 'down');
