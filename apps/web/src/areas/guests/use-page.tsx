/** What a guest was measured to use, against what it was given, and what follows from that. */
import type { GuestSheet, GuestUseView } from '@insel/contract';
import { formatBinary, formatMemory, printValue, type RightSize } from '@insel/core';
import {
  Area as AreaMark,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { Link, useParams } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';
import { useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { Figure } from '../../components/workings.js';
import { GRID, TIME_AXIS, VALUE_AXIS } from '../../components/over-time.js';
import { useRead } from '../../client/read.js';

const SPANS = [7, 30, 90, 365];

export function UsePage() {
  const { id = '' } = useParams();
  const [search, set] = useUrlState();
  const days = Number(search.get('days')) || 30;
  const sheet = useRead('guest', { id });
  const use = useRead('guestUse', { id, days }).data;
  if (sheet.error) return <p className="p-6 text-signal">{sheet.error.message}</p>;
  if (!sheet.data || !use) return null;
  const { guest } = sheet.data;
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>Measured use of {guest.name}</h1>
        {use.firstAt && (
          <span className="text-faint">
            {use.samples.toLocaleString('en-GB')} samples, {use.firstAt.slice(0, 10)} to{' '}
            {use.lastAt!.slice(0, 10)}
            {use.summedUp > 0 &&
              `; ${use.summedUp.toLocaleString('en-GB')} of them stand summed up`}
          </span>
        )}
        <label className="ml-auto flex items-center gap-2">
          over{' '}
          <select value={days} onChange={(event) => set({ days: event.target.value })}>
            {SPANS.map((span) => (
              <option key={span} value={span}>
                {span} days
              </option>
            ))}
          </select>
        </label>
        <Link className="act" to={`/guests/${id}`}>
          Back to its sheet
        </Link>
      </div>
      {use.samples === 0 ? (
        <p className="mt-3 text-faint">
          Nothing was measured yet.{' '}
          <Link className="act" to="/guests/samples">
            Take samples in
          </Link>{' '}
          from a CSV of your monitoring.
        </p>
      ) : (
        <div className="mt-3 grid gap-x-8 gap-y-4 lg:grid-cols-2">
          <Advice title="Processors" size={use.vcpu} now={guest.vcpu} guest={guest} field="vcpu" />
          <Advice
            title="Memory"
            size={use.memory}
            now={guest.memoryMiB}
            guest={guest}
            field="memoryMiB"
          />
          {use.vcpu && (
            <Chart
              title={`Processors, % of ${guest.vcpu} vCPU: mean, and the highest sample of each part (line)`}
              points={use.points}
              mean="cpu"
              most="cpuMost"
              limit={100}
              show={(value) => `${Math.round(value)} %`}
            />
          )}
          {use.memory && (
            <Chart
              title={`Memory of ${formatMemory(guest.memoryMiB)}: mean, and the highest sample of each part (line)`}
              points={use.points}
              mean="memoryMiB"
              most="memoryMostMiB"
              limit={guest.memoryMiB}
              show={(value) => formatMemory(value, 'nearest', 0)}
            />
          )}
          {use.disk && (
            <div>
              <p className="mb-1">
                Disk: <Figure figure={use.disk} /> of its volumes are used
              </p>
              <Chart
                title="Disk, used"
                points={use.points}
                mean="diskBytes"
                show={(value) => formatBinary(value)}
              />
            </div>
          )}
        </div>
      )}
      {use.saves && (
        <p className="mt-3 border-t border-rule pt-2">
          <b>{use.saves}</b>
        </p>
      )}
    </div>
  );
}

const WORD: Record<RightSize['advice'], string> = {
  shrink: 'Smaller would do',
  leave: 'Leave it',
  grow: 'Larger',
  'too few samples': 'No advice yet',
};

function Advice({
  title,
  size,
  now,
  guest,
  field,
}: {
  title: string;
  size: RightSize | null;
  now: number;
  guest: GuestSheet['guest'];
  field: 'vcpu' | 'memoryMiB';
}) {
  const mayPlan = useMayPlan();
  const { make, busy, problem } = useChange();
  if (!size) return <p className="text-faint">{title}: not measured.</p>;
  const alters = size.advice === 'shrink' || size.advice === 'grow';
  return (
    <section aria-label={`Advice on ${title.toLowerCase()}`} className="border-t border-rule pt-1">
      <h2 className="font-bold">
        {title}:{' '}
        <span className={size.advice === 'grow' ? 'text-amber' : ''}>
          {size.advice === 'grow' && '◆ '}
          {WORD[size.advice]}
        </span>
      </h2>
      <p>
        It has <b className="mono">{printValue(now, size.figure.unit)}</b>
        {size.advice !== 'too few samples' && (
          <>
            ; by what it uses <Figure figure={size.figure} rounding="up" />
          </>
        )}
        . {size.sentence}
      </p>
      {mayPlan && alters && (
        <button
          type="button"
          className="act"
          disabled={busy}
          onClick={() =>
            void make(
              'guest.edit',
              { id: guest.id, [field]: size.to },
              { seen: guest, reason: 'By its measured use' },
            )
          }
        >
          Give it {printValue(size.to, size.figure.unit)}
        </button>
      )}
      <ProblemNote problem={problem} />
    </section>
  );
}

function Chart({
  title,
  points,
  mean,
  most,
  limit,
  show,
}: {
  title: string;
  points: GuestUseView['points'];
  mean: keyof GuestUseView['points'][number];
  most?: keyof GuestUseView['points'][number];
  limit?: number;
  show: (value: number) => string;
}) {
  const data = points.map((point) => ({
    time: Date.parse(point.at),
    mean: point[mean],
    most: most ? point[most] : null,
  }));
  return (
    <figure>
      <figcaption className="mb-1 text-xs font-bold text-faint">{title}</figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <ComposedChart data={data} margin={{ left: 4, right: 16, top: 6 }}>
          <CartesianGrid {...GRID} />
          <XAxis {...TIME_AXIS} />
          <YAxis tickFormatter={show} width={70} {...VALUE_AXIS} domain={[0, limit ?? 'auto']} />
          <AreaMark
            dataKey="mean"
            stroke="var(--used)"
            fill="var(--water)"
            strokeWidth={1.5}
            isAnimationActive={false}
            connectNulls
          />
          {most && (
            <Line
              dataKey="most"
              stroke="var(--pencil)"
              strokeWidth={1}
              dot={false}
              isAnimationActive={false}
              connectNulls
            />
          )}
          {limit !== undefined && <ReferenceLine y={limit} stroke="var(--ink)" />}
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}
