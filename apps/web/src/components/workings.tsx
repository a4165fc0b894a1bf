import { printValue, type Figure as CoreFigure } from '@insel/core';
import { Popover } from 'radix-ui';
import { Link } from 'react-router';

const PATH: Record<string, string> = {
  host: 'hosts',
  guest: 'guests',
  network: 'networks',
  migration: 'migrations',
};

/** A computed number, underlined with dots; a click or w opens its workings. */
export function Figure({
  figure,
  rounding = 'nearest',
  className = '',
}: {
  figure: CoreFigure;
  rounding?: 'nearest' | 'down' | 'up';
  className?: string;
}) {
  const overfull = figure.value !== null && figure.value < 0;
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`figure ${overfull ? 'text-signal' : ''} ${className}`}
        data-figure
        aria-label={`${figure.title}: ${printValue(figure.value, figure.unit, rounding)}, show workings`}
      >
        {printValue(figure.value, figure.unit, rounding)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          className="z-50 w-[min(400px,94vw)] border border-ink bg-raised p-4"
        >
          <Workings figure={figure} rounding={rounding} closes />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The sum itself, line by line, with where the rule comes from. */
export function Workings({
  figure,
  rounding = 'nearest',
  closes = false,
}: {
  figure: CoreFigure;
  rounding?: 'nearest' | 'down' | 'up';
  closes?: boolean;
}) {
  const result = figure.lines.length - 1;
  return (
    <div>
      <div className="mb-1 flex justify-between font-bold">
        {figure.title} {closes && <span className="key no-print">Esc</span>}
      </div>
      <table className="w-full text-[13px]">
        <tbody>
          {figure.lines.map((line, i) => (
            <tr key={i} className={line.operator === '=' ? 'border-t border-ink font-bold' : ''}>
              <td className="py-0.5">
                {line.from && PATH[line.from.kind] ? (
                  <Link
                    className="underline decoration-rule"
                    to={`/${PATH[line.from.kind]}/${line.from.id}`}
                  >
                    {line.label}
                  </Link>
                ) : (
                  line.label
                )}
                {line.note && <span className="block text-xs text-faint">{line.note}</span>}
              </td>
              <td className="mono py-0.5 text-right whitespace-nowrap">
                {line.operator === '·' || line.operator === '=' ? '' : `${line.operator} `}
                {printValue(line.value, line.unit, i === result ? rounding : 'nearest')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-xs text-faint">
        {figure.sources.map((source) => `${source.text}.`).join(' ')}{' '}
        {figure.policy && `Altered by: ${figure.policy}.`}
      </p>
    </div>
  );
}
