/** A subnet on the sheet of its network: its runs, ranges, who holds addresses, what rests, how it is cut. */
import type { SubnetView } from '@insel/contract';
import { ADDRESS_POLICIES, parseAddress } from '@insel/core';
import { useState } from 'react';
import { editing } from '../../client/change.js';
import { asText, asWhole, Editable } from '../../components/editable.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { AddressOfMac, FreeRun } from './address-help.js';
import { AddressRuler } from './ruler.js';
import { usePlanDrawn } from '../../client/in-plan.js';
import { type RangeDraft, Ranges } from './subnet-ranges.js';
import { HeldLine, Resting } from './subnet-held.js';
import { Cut } from './cut-subnet.js';

export function SubnetPart({ subnet }: { subnet: SubnetView }) {
  const at = editing('subnet.edit', subnet);
  const ip = (
    text: string,
  ): { ok: true; value: string | null } | { ok: false; sentence: string } => {
    if (text.trim() === '') return { ok: true, value: null };
    const found = parseAddress(text);
    return found.ok ? { ok: true, value: text.trim() } : found;
  };
  const many = (
    text: string,
  ): { ok: true; value: readonly string[] } | { ok: false; sentence: string } => {
    const list = text.split(/[\s,]+/).filter(Boolean);
    for (const one of list) {
      const found = parseAddress(one);
      if (!found.ok) return found;
    }
    return { ok: true, value: list };
  };
  const drawn = usePlanDrawn();
  const [range, setRange] = useState<RangeDraft | null>(null);
  return (
    <section aria-label={`Subnet ${subnet.prefix}`}>
      <div className="mb-2 flex flex-wrap gap-x-5 border-t border-rule pt-2">
        <b className="mono">
          <Editable
            at={at('prefix')}
            name="Block"
            value={subnet.prefix}
            show={String}
            parse={asText}
            mono
          />
        </b>
        <span>
          gateway{' '}
          <Editable
            at={at('gateway')}
            name="Gateway"
            value={subnet.gateway}
            show={(value) => value ?? 'none'}
            write={(value) => value ?? ''}
            parse={ip}
            mono
          />
        </span>
        <span>
          name servers{' '}
          <Editable
            at={at('nameServers')}
            name="Name servers"
            value={subnet.nameServers}
            show={(value) => value.join(', ') || 'none'}
            write={(value) => value.join(', ')}
            parse={many}
            mono
          />
        </span>
        <span>
          next free <b className="mono text-teal">{subnet.next ?? 'none'}</b>
          {subnet.gateway === null && subnet.prefix.includes('.') && (
            <span className="text-xs text-faint">
              {' '}
              first and last come last: no gateway is recorded
            </span>
          )}
        </span>
        <span>
          free <Figure figure={subnet.free} />
        </span>
        {subnet.taken.value !== null && (
          <span>
            taken <Figure figure={subnet.taken} />
          </span>
        )}
        <span>
          domain <TextEdit at={at('domain')} name="Domain" value={subnet.domain} mono />
        </span>
        <span>
          next is{' '}
          <OneOf
            at={at('policy')}
            name="Which address is next"
            value={subnet.policy}
            choices={ADDRESS_POLICIES.map((policy) => ({ value: policy, label: POLICY[policy]! }))}
          />
        </span>
        <span>
          released ones rest{' '}
          <Editable
            at={at('quarantineDays')}
            name="Days of rest"
            value={subnet.quarantineDays}
            show={(value) => (value === 0 ? 'not' : `${value} days`)}
            write={String}
            parse={asWhole}
            mono
          />
        </span>
        <span>
          first ones offered last{' '}
          <Editable
            at={at('lowKept')}
            name="Low addresses kept back"
            value={subnet.lowKept}
            show={(value) => (value === 0 ? 'none' : String(value))}
            write={String}
            parse={asWhole}
            mono
          />
        </span>
        <span className="text-faint">{subnet.routingDomain.name}</span>
      </div>
      <AddressRuler
        subnet={subnet}
        pencilled={drawn?.addresses.filter(({ subnetId }) => subnetId === subnet.id)}
        onRange={(firstIp, lastIp) => setRange({ use: range?.use ?? 'dynamic', firstIp, lastIp })}
      />
      <div className="grid gap-x-6 lg:grid-cols-2">
        <div>
          <h2 className="text-[13px] font-bold text-faint">Runs</h2>
          {subnet.runs.map((run) => (
            <div
              key={run.first}
              className="grid grid-cols-[74px_1fr_60px] border-b border-rule text-[13px]"
            >
              <span className={run.kind === 'free' ? 'text-teal' : ''}>{run.kind}</span>
              <span className="mono">
                {run.first === run.last ? run.first : `${run.first} – ${run.last}`}
              </span>
              <span className="mono text-right">
                {run.count.length < 10
                  ? run.count
                  : `2^${BigInt(run.count).toString(2).length - 1}`}
              </span>
            </div>
          ))}
          <Ranges subnet={subnet} range={range} setRange={setRange} />
          <FreeRun
            subnet={subnet}
            onTake={(firstIp, lastIp) => setRange({ use: 'reserved', firstIp, lastIp })}
          />
          <AddressOfMac subnet={subnet} />
          <Resting subnet={subnet} />
          <Cut subnet={subnet} />
        </div>
        <div>
          <h2 className="text-[13px] font-bold text-faint">Held here</h2>
          {subnet.held.map((held) => (
            <HeldLine key={held.id} held={held} />
          ))}
          {subnet.held.length === 0 && <p className="text-faint">Nobody.</p>}
        </div>
      </div>
    </section>
  );
}

const POLICY: Record<string, string> = {
  lowest: 'the lowest free',
  'after last': 'after the last held',
  random: 'any, at random',
};
