/** Cuts a block into subnets for what is needed; shows waste and what stays free; records the plan in one change. */
import {
  counted,
  formatPrefix,
  parsePrefix,
  planPrefix,
  prefixOf,
  readNeeds,
  usable,
  overlap,
  formatAddress,
  uniqueLocalPrefix,
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
import { Free, Used, Planned } from './planned-blocks.js';
import { NamedSelect } from '../../components/named-select.js';

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
              <NamedSelect
                value={domainId}
                onChange={(event) => set({ domainId: event.target.value })}
                rows={domains}
              />
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
                <NamedSelect
                  value={draft.siteId}
                  onChange={(event) => set({ siteId: event.target.value })}
                  rows={sites}
                  none="no site"
                />
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
