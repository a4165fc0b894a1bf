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
import type { ChangeEvent } from 'react';
import { useNavigate } from 'react-router';
import { useUrlState } from '../../client/url-state.js';
import { useMayPlan } from '../../client/session.js';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { unplaced, useKeptForm } from '../../components/kept-form.js';
import { Field, whyUnread, Wrong } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../client/read.js';
import { Free, Used, Planned } from './planned-blocks.js';
import { NamedSelect } from '../../components/named-select.js';

const EXAMPLE = '60 guests, 12 management, 2 links, 30 % growth';

interface Draft {
  block: string;
  needs: string;
  domainId: string;
  siteId: string;
  vlan: string;
  /** Names typed instead of those that the needs say. */
  names: Record<string, string>;
  reason: string;
}

export function PlanPage() {
  const go = useNavigate();
  const [search, setUrl] = useUrlState();
  const mayPlan = useMayPlan();
  const kept = useKeptForm<Draft>('prefix-plan', () => ({
    block: search.get('block') ?? '',
    needs: search.get('needs') ?? '',
    domainId: '',
    siteId: '',
    vlan: '',
    names: {},
    reason: '',
  }));
  const { values: draft, set, held, control } = kept;
  const subnets = useRead('subnets').data ?? [];
  const domains = useRead('routingDomains').data ?? [];
  const sites = useRead('sites').data ?? [];
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
  const nameOf = (name: string, names = draft.names) => names[name] ?? name.replace(/\s+/g, '-');
  const networksOf = ({ vlan, names, siteId }: Draft) => {
    if (!result?.ok) return [];
    const first = vlan.trim() === '' ? null : Number(vlan);
    return result.plan.planned.map((row, i) => ({
      name: nameOf(row.name, names),
      vlanId: first === null ? null : first + i,
      siteId: siteId || null,
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
  };
  const form = useChangeForm(kept, {
    type: 'network.record-many',
    read: (typed) => [{ networks: networksOf(typed) }],
    typedIn: { 'networks.0.vlanId': 'vlan' },
    sent: () => void go('/networks'),
  });
  const { send, busy, problem } = form;
  const inUrl = (field: 'block' | 'needs') => ({
    ...control(field),
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      setUrl({ [field]: event.target.value });
      return control(field).onChange(event);
    },
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
              error={draft.block && !block.ok ? whyUnread(block) : undefined}
              hint="such as 172.22.64.0/22"
            >
              <input autoFocus className="mono" {...inUrl('block')} />
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
              <textarea rows={2} placeholder={EXAMPLE} {...inUrl('needs')} />
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
              <Field label="Site of all of them" of={held('siteId')}>
                <NamedSelect rows={sites} none="no site" />
              </Field>
              <Field
                label="VLAN ids from"
                of={held('vlan')}
                hint="counted on, one each; empty: untagged"
              >
                <input className="mono" inputMode="numeric" />
              </Field>
              <Field label="Reason, for the log" of={held('reason')}>
                <input />
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
          <Wrong errors={unplaced(form)} problem={problem} />
          <ProblemNote problem={problem} />
        </form>
      }
    />
  );
}
