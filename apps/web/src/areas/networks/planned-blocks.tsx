/** Blocks of an address plan: laid out, in use, and left free. */
import type { SubnetOfDomain } from '@insel/contract';
import {
  type PrefixPlan,
  formatPrefix,
  usable,
  aggregate,
  prefixOf,
  overlap,
  type Prefix,
  total,
} from '@insel/core';

export function Planned({
  plan,
  nameOf,
  setName,
}: {
  plan: PrefixPlan;
  nameOf: (name: string) => string;
  setName: (name: string, value: string) => void;
}) {
  return (
    <table className="mt-3 w-full text-left text-[13px]">
      <thead>
        <tr className="border-b border-ink">
          <th>Network</th>
          <th>For</th>
          <th className="text-right">Wanted</th>
          <th className="pl-6">Block</th>
          <th className="text-right">Usable</th>
          <th className="text-right">Spare</th>
        </tr>
      </thead>
      <tbody>
        {plan.planned.map((row) => (
          <tr key={row.name} className="border-b border-rule">
            <td className="py-0.5">
              <input
                aria-label={`Name of the network for ${row.name}`}
                className="w-[150px]"
                value={nameOf(row.name)}
                onChange={(event) => setName(row.name, event.target.value)}
              />
            </td>
            <td>{row.name}</td>
            <td className="mono text-right" title="with growth, and the gateway">
              {row.wanted}
            </td>
            <td className="mono pl-6 text-pencil">{formatPrefix(row.block)}</td>
            <td className="mono text-right">
              {row.block.family === 4 ? String(usable(row.block).count) : '2^64'}
            </td>
            <td className="mono text-right">{row.spare ?? '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What a routing domain uses, in the fewest blocks: a place to begin from. */
export function Used({
  subnets,
  domain,
  onPick,
}: {
  subnets: SubnetOfDomain[];
  domain: string;
  onPick: (block: string) => void;
}) {
  const blocks = aggregate(subnets.map((subnet) => prefixOf(subnet.prefix)));
  return (
    <div>
      <p className="text-faint">Write a block and what is needed: the plan appears as you type.</p>
      {blocks.length > 0 && <h2 className="mt-3 font-bold">{domain} in the fewest blocks</h2>}
      {blocks.length > 0 && (
        <p className="text-[13px] text-faint">
          {subnets.length} subnets summarised, address for address, to {blocks.length}.
        </p>
      )}
      {blocks.map((found) => {
        const inside = subnets.filter((subnet) => overlap(prefixOf(subnet.prefix), found));
        return (
          <p
            key={formatPrefix(found)}
            className="grid grid-cols-[150px_1fr] items-baseline gap-x-3 py-0.5 text-[13px]"
          >
            <button
              type="button"
              className="act mono justify-self-start"
              onClick={() => onPick(formatPrefix(found))}
            >
              {formatPrefix(found)}
            </button>
            <span className={inside.length > 1 ? '' : 'text-faint'}>
              {inside.length > 1
                ? `joins ${inside.map((subnet) => subnet.prefix).join(', ')}`
                : inside[0]?.network.name}
            </span>
          </p>
        );
      })}
    </div>
  );
}

/** What of the block is planned, used already, and stays free. */
export function Free({
  block,
  plan,
  taken,
}: {
  block: Prefix;
  plan: PrefixPlan | null;
  taken: SubnetOfDomain[];
}) {
  const size = total(block);
  const share = (part: Prefix) => Number((total(part) * 1000000n) / size) / 10000;
  const left = (part: Prefix) => Number(((part.first - block.first) * 1000000n) / size) / 10000;
  const free = plan?.free ?? [];
  return (
    <div>
      <h2 className="font-bold">
        {formatPrefix(block)},{' '}
        {block.family === 4
          ? `${size.toLocaleString('en-GB')} addresses`
          : `2^${128 - block.length} addresses`}
      </h2>
      <div
        role="img"
        aria-label="The block: used, planned, free"
        className="relative my-2 h-[20px] border border-used bg-water"
      >
        {taken
          .filter((subnet) => prefixOf(subnet.prefix).length >= block.length)
          .map((subnet) => (
            <span
              key={subnet.id}
              title={`${subnet.network.name} ${subnet.prefix}`}
              className="absolute inset-y-0 bg-ink"
              style={{
                left: `${left(prefixOf(subnet.prefix))}%`,
                width: `${Math.max(0.4, share(prefixOf(subnet.prefix)))}%`,
              }}
            />
          ))}
        {plan?.planned.map((row) => (
          <span
            key={row.name}
            title={`${row.name} ${formatPrefix(row.block)}`}
            className="absolute inset-y-0 border-2 border-dashed border-pencil bg-ground"
            style={{ left: `${left(row.block)}%`, width: `${Math.max(0.4, share(row.block))}%` }}
          />
        ))}
      </div>
      <p className="text-[13px] text-faint">
        <span className="inline-block h-[10px] w-[10px] bg-ink" /> used already ·{' '}
        <span className="inline-block h-[10px] w-[10px] border-2 border-dashed border-pencil" />{' '}
        planned · <span className="inline-block h-[10px] w-[10px] border border-used bg-water" />{' '}
        free
      </p>
      {plan?.wastePercent != null && (
        <p className="mt-2">
          Spare inside the planned blocks:{' '}
          <b className="mono">{Math.round(plan.wastePercent * 10) / 10} %</b> of their addresses.
        </p>
      )}
      {taken.length > 0 && (
        <>
          <h3 className="mt-3 text-xs font-bold text-faint">Used already</h3>
          {taken.map((subnet) => (
            <p key={subnet.id} className="flex justify-between text-[13px]">
              <span>{subnet.network.name}</span>
              <span className="mono">{subnet.prefix}</span>
            </p>
          ))}
        </>
      )}
      {plan && (
        <>
          <h3 className="mt-3 text-xs font-bold text-faint">Stays free</h3>
          {free.length === 0 ? (
            <p className="text-[13px]">Nothing.</p>
          ) : (
            free.slice(0, 40).map((part) => (
              <p key={formatPrefix(part)} className="flex justify-between text-[13px]">
                <span className="mono text-teal">{formatPrefix(part)}</span>
                <span className="mono">
                  {part.family === 4 ? total(part).toLocaleString('en-GB') : ''}
                </span>
              </p>
            ))
          )}
        </>
      )}
      <p className="mt-3 text-xs text-faint">
        The largest blocks are placed first, each at its lowest aligned place; links are /31 (RFC
        3021) or /127 (RFC 6164), IPv6 networks /64 (RFC 4291, section 2.5.4).
      </p>
    </div>
  );
}
