/** A network that a host carries, and its cables. */
import type { CarriedView, HostSheet } from '@insel/contract';
import { counted } from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { ProblemNote } from '../../components/problem.js';
import { OneOf, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';
import { MODES } from './inside-network.js';

export function CarriedLine({ found, sheet }: { found: CarriedView; sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  const [choosing, setChoosing] = useState(false);
  const by = found.ports.length
    ? `${found.mode} by ${found.ports.map((port) => port.name).join(' + ')}`
    : found.mode;
  const at = editing('switch.edit', found);
  const chosen = new Set(found.ports.map((port) => port.id));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    void make('switch.set-uplinks', { switchId: found.id, portIds: [...next] }, { seen: found });
  };
  return (
    <div>
      <div className="grid grid-cols-[150px_1fr_170px_64px] items-baseline gap-3 py-[3px]">
        <span>
          {found.network ? (
            <Link
              className="font-bold underline decoration-rule"
              to={`/networks/${found.network.id}`}
            >
              {found.network.name}
            </Link>
          ) : (
            '–'
          )}{' '}
          <span className="mono text-[13px] text-faint">{found.vlanId}</span>
        </span>
        {mayPlan ? (
          <button
            type="button"
            className="min-h-6 cursor-pointer text-left"
            aria-expanded={choosing}
            onClick={() => setChoosing(!choosing)}
          >
            {by}
          </button>
        ) : (
          <span>{by}</span>
        )}
        <span className={found.survives === 'single port' ? 'text-amber' : 'text-faint'}>
          {found.survives === 'single port' && '◆ '}
          {found.survives}
        </span>
        <span>{counted(found.guests, 'guest')}</span>
      </div>
      {choosing && (
        <div className="flex flex-wrap gap-x-4 pl-[162px] text-[13px]">
          <span>
            mode{' '}
            <OneOf
              at={at('mode')}
              name={`Mode of ${found.network?.name ?? 'the switch'}`}
              value={found.mode}
              choices={MODES}
            />
          </span>
          <span>
            frames{' '}
            <YesNo
              at={at('untagged')}
              name="Frames leave"
              value={found.untagged}
              yes="without a tag"
              no={found.vlanId === null ? 'untagged network' : `tagged ${found.vlanId}`}
            />
          </span>
          {found.mode === 'NAT' && (
            <span>
              guests{' '}
              <OneOf
                at={at('translation')}
                name="How its guests are translated"
                value={found.translation}
                choices={[
                  { value: 'as its platform', label: 'as its platform does' },
                  { value: 'shared', label: 'share one segment' },
                  { value: 'isolated', label: 'each alone' },
                ]}
              />
            </span>
          )}
          {found.mode === 'NAT' && (
            <span>
              leaving by{' '}
              <OneOf
                at={at('natUplinkId')}
                name="The uplink that they are translated by"
                value={found.natUplinkId}
                choices={[
                  { value: '', label: 'whichever (not recorded)' },
                  ...sheet.networks
                    .filter((other) => other.mode === 'bridged' && other.network)
                    .map((other) => ({ value: other.id, label: other.network!.name })),
                ]}
              />
            </span>
          )}
          {found.ports.length > 1 && (
            <span>
              ports bound{' '}
              <OneOf
                at={at('bundle')}
                name="How the ports are bound"
                value={found.bundle}
                choices={[
                  { value: 'none', label: 'not' },
                  { value: 'failover', label: 'one at a time' },
                  { value: 'aggregation', label: 'as one' },
                ]}
              />
            </span>
          )}
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              onClick={() => void make('host.drop-switch', { id: found.id }, { seen: found })}
            >
              No longer carried
            </button>
          )}
          <span className="basis-full" />
          {sheet.ports.map((port) => (
            <label key={port.id} className="inline-flex items-center gap-1">
              <input
                type="checkbox"
                checked={chosen.has(port.id)}
                onChange={() => toggle(port.id)}
              />
              {port.name}
              {port.card && ` (${port.card})`}
            </label>
          ))}
        </div>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}

/** Which port of which switch each cable goes to. */
export function Cables({ sheet }: { sheet: HostSheet }) {
  const mayPlan = useMayPlan();
  const plugs = useRead('plugs').data?.switches ?? [];
  if (plugs.length === 0) return null;
  const name = (id: string | null) =>
    plugs.flatMap((found) =>
      found.ports
        .filter((port) => port.id === id)
        .map((port) => `${found.name}, port ${port.name}`),
    )[0] ?? '';
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-[13px] text-faint">
        Cables: {sheet.ports.filter((port) => port.switchPortId).length} of {sheet.ports.length}{' '}
        ports plugged into recorded switches
      </summary>
      {sheet.ports.map((port) => {
        const at = editing('port.edit', port);
        const choices = [
          { value: '', label: 'not recorded' },
          ...plugs.flatMap((found) =>
            found.ports
              .filter((one) => !one.taken || one.id === port.switchPortId)
              .map((one) => ({ value: one.id, label: `${found.name}, port ${one.name}` })),
          ),
        ];
        return (
          <div key={port.id} className="grid grid-cols-[70px_70px_1fr] gap-3 text-[13px]">
            <b className="mono">{port.name}</b>
            <YesNo at={at('up')} name={`${port.name} is`} value={port.up} yes="up" no="down" />
            {mayPlan ? (
              <OneOf<string | null>
                at={at('switchPortId')}
                name={`Cable of ${port.name}`}
                value={port.switchPortId}
                choices={choices}
              />
            ) : (
              <span>{name(port.switchPortId) || port.pluggedInto}</span>
            )}
          </div>
        );
      })}
    </details>
  );
}
