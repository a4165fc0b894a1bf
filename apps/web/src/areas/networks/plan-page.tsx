/** Cuts a block into subnets for what is needed; shows waste and what stays free; records the plan in one change. */
import type { SubnetOfDomain } from '@insel/contract';
import {
  counted,
  aggregate,
  formatPrefix,
  parsePrefix,
  planPrefix,
  prefixOf,
  readNeeds,
  total,
  usable,
  overlap,
  formatAddress,
  uniqueLocalPrefix,
  type Prefix,
  type PrefixPlan,
} from '@insel/core';
import { useNavigate } from 'react-router';
import { useUrlState } from '../../frame/url-state.js';
import { useDraft } from '../../frame/draft.js';
import { useMayPlan } from '../../frame/session.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Field } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../frame/read.js';

const EXAMPLE = '60 guests, 12 management, 2 links, 30 % growth';

export function PlanPage() {
  const go = useNavigate();
  const [search, setUrl] = useUrlState();
  const mayPlan = useMayPlan();
  const [draft, set, forget] = useDraft('prefix-plan', () => ({
    block: search.get('block') ?? '',
    needs: search.get('needs') ?? '',
    domainId: '',
    siteId: '',
    vlan: '',
    names: {} as Record<string, string>,
    reason: '',
  }));
  const subnets = useRead('subnets').data ?? [];
  const domains = useRead('routingDomains').data ?? [];
  const sites = useRead('sites').data ?? [];
  const { make, busy, problem } = useChange();
  const block = parsePrefix(draft.block);
  const needs = readNeeds(draft.needs);
  const domainId = draft.domainId || domains[0]?.id || '';
  const taken = block.ok
    ? subnets.filter(
        (subnet) => subnet.domainId === domainId && overlap(prefixOf(subnet.prefix), block.value),
      )
    : [];
  const result =
    block.ok && needs.ok
      ? planPrefix(
          block.value,
          needs.needs,
          needs.growthPercent,
          taken.map((subnet) => prefixOf(subnet.prefix)),
        )
      : null;
  const nameOf = (name: string) => draft.names[name] ?? name.replace(/\s+/g, '-');
  const send = async () => {
    if (!result?.ok) return;
    const first = draft.vlan.trim() === '' ? null : Number(draft.vlan);
    const networks = result.plan.planned.map((row, i) => ({
      name: nameOf(row.name),
      vlanId: first === null ? null : first + i,
      siteId: draft.siteId || null,
      subnet: {
        prefix: formatPrefix(row.block),
        domainId,
        ...(row.name.startsWith('link')
          ? {}
          : {
              gateway: formatAddress({ family: row.block.family, value: usable(row.block).first }),
            }),
      },
    }));
    if (!(await make('network.record-many', { networks }, { reason: draft.reason }))) return;
    forget();
    void go('/networks');
  };
  const text = (field: 'block' | 'needs' | 'vlan' | 'reason') => ({
    value: draft[field],
    onChange: (event: { target: { value: string } }) => (
      set({ [field]: event.target.value }),
      field === 'block' || field === 'needs' ? setUrl({ [field]: event.target.value }) : undefined
    ),
  });
  return (
    <Making
      title="Divide a subnet"
      consequences={
        block.ok ? (
          <Free block={block.value} plan={result?.ok ? result.plan : null} taken={taken} />
        ) : (
          <Used
            subnets={subnets.filter((subnet) => subnet.domainId === domainId)}
            domain={domains.find((domain) => domain.id === domainId)?.name ?? ''}
            onPick={(found) => set({ block: found })}
          />
        )
      }
      form={
        <form onSubmit={(event) => event.preventDefault()} className="max-w-[860px]">
          <div className="grid grid-cols-2 gap-3 md:grid-cols-3">
            <Field
              label="Block to cut from"
              error={
                draft.block && !block.ok
                  ? [block.sentence, block.suggestion && `Write ${block.suggestion}.`]
                      .filter(Boolean)
                      .join(' ')
                  : undefined
              }
              hint="such as 172.22.64.0/22"
            >
              <input autoFocus className="mono" {...text('block')} />
            </Field>
            <Field label="Routing domain" hint="blocks used in it are kept clear of">
              <select value={domainId} onChange={(event) => set({ domainId: event.target.value })}>
                {domains.map((domain) => (
                  <option key={domain.id} value={domain.id}>
                    {domain.name}
                  </option>
                ))}
              </select>
            </Field>
            <p className="self-end pb-1 text-[13px]">
              <button
                type="button"
                className="act"
                title="fd and 40 random bits: RFC 4193, section 3.2"
                onClick={() =>
                  set({
                    block: uniqueLocalPrefix(() => crypto.getRandomValues(new Uint8Array(1))[0]!),
                  })
                }
              >
                Draw a local IPv6 block
              </button>
            </p>
            <Field
              wide
              label="Needs"
              error={draft.needs && !needs.ok ? needs.sentence : undefined}
              hint={`such as: ${EXAMPLE}; the gateway is counted for you`}
            >
              <textarea rows={2} placeholder={EXAMPLE} {...text('needs')} />
            </Field>
          </div>
          {result && !result.ok && (
            <p role="alert" className="my-2 border-l-4 border-signal pl-3">
              <b className="text-signal">■ This does not fit.</b> {result.sentence}
            </p>
          )}
          {result?.ok && (
            <Planned
              plan={result.plan}
              nameOf={nameOf}
              setName={(name, value) => set({ names: { ...draft.names, [name]: value } })}
            />
          )}
          {result?.ok && mayPlan && (
            <div className="mt-4 grid grid-cols-3 gap-3">
              <Field label="Site of all of them">
                <select
                  value={draft.siteId}
                  onChange={(event) => set({ siteId: event.target.value })}
                >
                  <option value="">no site</option>
                  {sites.map((site) => (
                    <option key={site.id} value={site.id}>
                      {site.name}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label="VLAN ids from" hint="counted on, one each; empty: untagged">
                <input className="mono" inputMode="numeric" {...text('vlan')} />
              </Field>
              <Field label="Reason, for the log">
                <input {...text('reason')} />
              </Field>
              <div className="col-span-full">
                <button type="button" className="press" disabled={busy} onClick={() => void send()}>
                  Record{' '}
                  {result.plan.planned.length === 1
                    ? 'this network'
                    : `these ${counted(result.plan.planned.length, 'network')}`}
                </button>
              </div>
            </div>
          )}
          <ProblemNote problem={problem} />
        </form>
      }
    />
  );
}

function Planned({
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
function Used({
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
function Free({
  block,
  plan,
  taken,
}: {
  block: Prefix;
  plan: PrefixPlan | null;
  taken: SubnetOfDomain[];
}) {
  const size = total(block);
  const share = (part: Prefix) => Number((total(part) * 1_000_000n) / size) / 10_000;
  const left = (part: Prefix) => Number(((part.first - block.first) * 1_000_000n) / size) / 10_000;
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
