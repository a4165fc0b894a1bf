/** Computers seen together: who has a place, what is freed, in how many windows; drawn as a plan. */
import {
  counted,
  formatDuration,
  printValue,
  type Consolidated,
  type Consolidation,
  type Freed,
} from '@insel/core';
import { DrawPlan } from '../../components/draw-plan.js';
import { Part } from '../../components/sheet.js';
import { useMayPlan } from '../../client/session.js';

const freedWords = ({ known, unknown }: Freed, unit: string): string =>
  `${known} ${unit}${unknown.length ? `, without ${unknown.join(', ')}: not recorded` : ''}`;

export function Sums({ answer: { moves, freed, tolerance, waves } }: { answer: Consolidation }) {
  const mayPlan = useMayPlan();
  const placed = moves.filter(({ target }) => target !== null);
  const notMoving = moves.filter(({ moving }) => moving === null);
  const name = (id: string) => moves.find(({ device }) => device.id === id)?.device.name;
  return (
    <div className="mt-3">
      <Part title="Together">
        <p>
          {placed.length} of {counted(notMoving.length, 'computer')}{' '}
          {placed.length === 1 ? 'has' : 'have'} a host that takes{' '}
          {placed.length === 1 ? 'it' : 'them'}
          {tolerance && (
            <>
              ; one host may fail without a guest left down: {tolerance.before} of{' '}
              {counted(tolerance.tried, 'host')} now, {tolerance.after} then
              {tolerance.worse.length > 0 && (
                <b className="text-signal">
                  {' '}
                  ■ worse:{' '}
                  {tolerance.worse.map((one) => `${one.name} (${one.down} down)`).join(', ')}
                </b>
              )}
            </>
          )}
          .
        </p>
      </Part>
      <Part title="Freed">
        <p>
          {freedWords(freed.rackUnits, 'rack units')}; {freedWords(freed.sockets, 'sockets')};{' '}
          {freedWords(freed.watts, 'W')}.
        </p>
        <p className="text-[13px] text-faint">
          Nothing is added: the hosts are there. What they draw more under load is not counted.
          Watts are planning figures: circuits and supplies are for a licensed electrician.
        </p>
      </Part>
      <Part title="Windows">
        <ol aria-label="Windows">
          {waves.windows.map(({ ids, minutes }, i) => (
            <li key={ids[0]}>
              <b>
                {i + 1}
                {i === 0 && ', the pilot'}
              </b>{' '}
              {ids.map(name).join(', ')}{' '}
              <span className="text-[13px] text-faint">{formatDuration(minutes * 60)}</span>
            </li>
          ))}
        </ol>
        {waves.tooLong.length > 0 && (
          <p className="text-amber">
            ◆ {waves.tooLong.map(name).join(', ')}: longer than the{' '}
            {formatDuration(waves.most * 60)} that may be planned into a window. A first pass while
            it runs, days before, leaves only the last one; or a longer window.
          </p>
        )}
        <p className="text-[13px] text-faint">
          {counted(waves.windows.length, 'window')}; fewer than {waves.fewest} cannot be. Planned to{' '}
          {printValue(60, 'percent')} of a window, two as the pilot, then five, then six; of files,
          finance and what others need one a window (common practice, no source).
        </p>
        {mayPlan && placed.length > 0 && <Draw moves={placed} windows={waves.windows} />}
      </Part>
    </div>
  );
}

function Draw({
  moves,
  windows,
}: {
  moves: readonly Consolidated[];
  windows: Consolidation['waves']['windows'];
}) {
  const windowOf = (id: string) => windows.findIndex(({ ids }) => ids.includes(id));
  // Those that fit no window come last.
  const order = (id: string) => (windowOf(id) < 0 ? windows.length : windowOf(id));
  const steps = [...moves].sort((a, b) => order(a.device.id) - order(b.device.id));
  return (
    <DrawPlan
      initial="computers into guests"
      words={`Draw ${counted(moves.length, 'computer')} as a plan`}
      draw={(make, name) =>
        make('plan.draw-programme', {
          name,
          moves: steps.map(({ input, device }) => ({
            ...input!,
            remark:
              windowOf(device.id) < 0 ? 'fits no window' : `window ${windowOf(device.id) + 1}`,
          })),
        })
      }
    />
  );
}
