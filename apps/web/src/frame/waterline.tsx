import { counted } from '@insel/core';
import { Link } from 'react-router';
import { Figure } from '../components/workings.js';
import { Gauge } from '../components/gauge.js';
import { usePlanDrawn } from '../client/in-plan.js';
import { useRead } from '../client/read.js';

const TITLE = {
  processors: 'Processors',
  memory: 'Memory',
  storage: 'Storage',
  addresses: 'Addresses',
};

function useFindings() {
  return useRead('findings');
}

/** How high the fleet stands, always in sight: the tightest place of each resource, and what the rules found. */
export function Waterline() {
  const levels = useRead('waterline');
  // While a plan is drawn in, both levels: the ink of the record, the pencil of what would be.
  const before = usePlanDrawn()?.before;
  const inked = (resource: string) =>
    before?.find((level) => level.resource === resource)?.taken?.value ?? null;
  const counts = useFindings().data?.counts;
  return (
    <footer
      aria-label="Waterline"
      className="no-print flex min-h-[46px] flex-wrap items-center gap-x-2 gap-y-1 border-t border-ink px-3 py-1 md:gap-x-5 md:px-5"
    >
      {levels.data?.levels.map((level) => (
        <div key={level.resource} className="w-[calc(25%-6px)] md:w-[158px]">
          <div className="flex flex-col gap-x-1.5 text-[12px] md:flex-row md:items-baseline md:text-[13px]">
            <span className="mr-auto">{TITLE[level.resource]}</span>
            {level.place && level.taken ? (
              <>
                <b className="hidden truncate md:inline" title={level.place.name}>
                  {level.place.name}
                </b>
                <Figure
                  figure={{ ...level.taken, value: Math.round(level.taken.value!) }}
                  className="shrink-0 self-start text-[12px] font-bold md:self-auto"
                />
              </>
            ) : (
              <span className="text-faint">nothing yet</span>
            )}
          </div>
          <Gauge
            label={TITLE[level.resource]}
            percent={inked(level.resource) ?? level.taken?.value ?? 0}
            after={inked(level.resource) === null ? undefined : (level.taken?.value ?? 0)}
          />
        </div>
      ))}
      <ToleranceWords />
      <Link to="/findings" className="ml-auto text-[13px] whitespace-nowrap">
        {counts ? (
          <>
            <span className="font-bold text-signal">
              ■ {counts.blocker} {counts.blocker === 1 ? 'blocker' : 'blockers'}
            </span>{' '}
            ·{' '}
            <span className="font-bold text-amber">
              ◆ {counts.caution} {counts.caution === 1 ? 'caution' : 'cautions'}
            </span>{' '}
            · {counts.note} {counts.note === 1 ? 'note' : 'notes'}
          </>
        ) : (
          'findings …'
        )}
      </Link>
    </footer>
  );
}

/** Whether any one host may fail, or which may not; a click shows what would happen. */
function ToleranceWords() {
  const counts = useRead('toleranceCounts').data;
  if (!counts) return <span className="text-[13px] text-faint">tolerance …</span>;
  const { hosts, mayNot, notSettled, first } = counts;
  const names = first.map(({ name }) => name);
  return (
    <Link
      to={first[0] ? `/chart?fails=host:${first[0].id}` : '/chart'}
      className="max-w-[320px] min-w-0 flex-1 truncate text-[13px]"
      title={
        mayNot > 0
          ? `One host may fail, but for ${names.join(', ')}${mayNot > names.length ? ` and ${mayNot - names.length} more` : ''}`
          : undefined
      }
    >
      <b>Tolerance</b>{' '}
      {hosts === 0 ? (
        <span className="text-faint">no host in service</span>
      ) : mayNot > 0 ? (
        <>
          <span className="sr-only">one host may fail: </span>
          <b className="text-signal">
            <span className="max-md:hidden">
              not {names.slice(0, 2).join(', ')}
              {mayNot > 2 && ` + ${mayNot - 2}`}
            </span>
            <span className="md:hidden">not {counted(mayNot, 'host')}</span>
          </b>
        </>
      ) : notSettled > 0 ? (
        <span className="text-amber">not settled for {notSettled}</span>
      ) : hosts === 1 ? (
        'one host alone: none beside it'
      ) : (
        'any one host may fail'
      )}
    </Link>
  );
}
