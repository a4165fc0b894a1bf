/** Past moves, planned against actual: whether estimates can be believed, and by how much they were off. */
import type { PastMove } from '@insel/contract';
import { counted, formatDuration } from '@insel/core';
import { Link } from 'react-router';
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { useRead } from '../../client/read.js';

const ratioOf = ({ tookSeconds, expectedSeconds }: PastMove) => tookSeconds / expectedSeconds;

export function ActualPage() {
  const found = useRead('calibration').data;
  if (!found) return null;
  const { runs, held, counted: all } = found;
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Planned and actual</h1>
      {all === 0 ? (
        <p className="text-faint">
          When moves are ticked with the time that their copies really took, they are compared with
          their estimates here, and the next estimates learn from them.
        </p>
      ) : (
        <>
          <p>
            {held} of {counted(all, 'move')} fell into the range that those before them gave; it
            should be 8 of 10.
            {all < 10 && <span className="text-faint"> So few say little.</span>}
          </p>
          <div className="mt-2 h-56 max-w-[900px]" aria-hidden>
            <ResponsiveContainer>
              <ScatterChart
                accessibilityLayer={false}
                margin={{ top: 8, right: 16, bottom: 8, left: 0 }}
              >
                <CartesianGrid stroke="var(--color-rule)" vertical={false} />
                <XAxis
                  dataKey="time"
                  type="number"
                  domain={['dataMin', 'dataMax']}
                  tickFormatter={(time: number) => new Date(time).toISOString().slice(0, 10)}
                  tick={{ fill: 'var(--color-faint)', fontSize: 12 }}
                />
                <YAxis
                  dataKey="ratio"
                  scale="log"
                  domain={[0.25, 4]}
                  ticks={[0.25, 0.5, 1, 2, 4]}
                  allowDataOverflow
                  tickFormatter={(ratio: number) => `× ${ratio}`}
                  tick={{ fill: 'var(--color-faint)', fontSize: 12 }}
                />
                <ReferenceLine y={1} stroke="var(--color-ink)" />
                <Tooltip
                  formatter={(value) => `× ${Number(value).toFixed(2)}`}
                  labelFormatter={() => ''}
                />
                <Scatter
                  isAnimationActive={false}
                  fill="var(--color-pencil)"
                  data={runs.map((run) => ({ time: Date.parse(run.at), ratio: ratioOf(run) }))}
                />
              </ScatterChart>
            </ResponsiveContainer>
          </div>
          <table className="mt-3 w-full max-w-[900px] text-left text-[13px]">
            <thead>
              <tr className="border-b border-ink text-xs">
                <th>Day</th>
                <th>Guest</th>
                <th>Route</th>
                <th>Method</th>
                <th className="text-right">Expected</th>
                <th className="text-right">Took</th>
                <th className="text-right">Ratio</th>
              </tr>
            </thead>
            <tbody>
              {[...runs].reverse().map((run) => (
                <tr key={run.id} className="border-b border-rule">
                  <td className="mono py-1">{run.at.slice(0, 10)}</td>
                  <td>
                    <Link className="underline decoration-rule" to={`/migrations/${run.id}`}>
                      {run.guest}
                    </Link>
                  </td>
                  <td>
                    {run.source} → {run.target}
                  </td>
                  <td>{run.method}</td>
                  <td className="mono text-right text-pencil">
                    {formatDuration(run.expectedSeconds)}
                  </td>
                  <td className="mono text-right">{formatDuration(run.tookSeconds)}</td>
                  <td className="mono text-right">× {ratioOf(run).toFixed(2)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}
