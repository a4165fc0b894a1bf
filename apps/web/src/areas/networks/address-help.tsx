/** Small answers beside a subnet: the next free run of several addresses, and the address a MAC makes in an IPv6 /64. */
import type { SubnetView } from '@insel/contract';
import {
  addressOf,
  autoconfigured,
  formatAddress,
  lowestFreeRun,
  parseMac,
  prefixOf,
} from '@insel/core';
import { useState } from 'react';

const MOST = 4096;

/** @param onTake puts a run into the form that sets a range apart */
export function FreeRun({
  subnet,
  onTake,
}: {
  subnet: SubnetView;
  onTake: (firstIp: string, lastIp: string) => void;
}) {
  const [wanted, setWanted] = useState('');
  const n = Number(wanted);
  const filled = wanted.trim() !== '';
  const good = /^\d+$/.test(wanted.trim()) && n >= 1 && n <= MOST;
  const run = good ? nextRun(subnet, n) : undefined;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
      <label>
        Next free run of{' '}
        <input
          aria-label={`Addresses in a row in ${subnet.prefix}`}
          inputMode="numeric"
          className="mono w-[56px]"
          aria-invalid={filled && !good}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      {filled && !good && (
        <span role="alert" className="text-signal">
          A whole number from 1 to {MOST.toLocaleString('en-GB')}.
        </span>
      )}
      {good && !run && <span role="status">No {n} free addresses in a row are left here.</span>}
      {run && (
        <>
          <span role="status" className="mono text-teal">
            {run.firstIp === run.lastIp ? run.firstIp : `${run.firstIp} – ${run.lastIp}`}
          </span>
          <button type="button" className="act" onClick={() => onTake(run.firstIp, run.lastIp)}>
            Set it apart
          </button>
        </>
      )}
    </div>
  );
}

function nextRun(subnet: SubnetView, n: number): { firstIp: string; lastIp: string } | undefined {
  const free = subnet.runs
    .filter((run) => run.kind === 'free')
    .map((run) => ({
      kind: 'free' as const,
      first: addressOf(run.first).value,
      last: addressOf(run.last).value,
    }));
  const held = subnet.held.map((one) => addressOf(one.ip).value);
  const after =
    subnet.policy === 'after last' && held.length > 0
      ? held.reduce((most, value) => (value > most ? value : most)) + 1n
      : 0n;
  const found = lowestFreeRun(free, n, new Set(), after) ?? lowestFreeRun(free, n);
  const { family } = prefixOf(subnet.prefix);
  return (
    found && {
      firstIp: formatAddress({ family, value: found[0]! }),
      lastIp: formatAddress({ family, value: found.at(-1)! }),
    }
  );
}

/** Only for an IPv6 /64: other lengths have no autoconfiguration (RFC 4862, section 5.5.3; RFC 4291, section 2.5.1). */
export function AddressOfMac({ subnet }: { subnet: SubnetView }) {
  const [text, setText] = useState('');
  const prefix = prefixOf(subnet.prefix);
  if (prefix.family !== 6 || prefix.length !== 64) return null;
  const mac = text.trim() === '' ? null : parseMac(text);
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
      <label>
        An adapter with MAC{' '}
        <input
          aria-label={`MAC to make an address of in ${subnet.prefix}`}
          className="mono w-[150px]"
          value={text}
          aria-invalid={mac?.ok === false}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {mac?.ok && (
        <span
          role="status"
          title="modified EUI-64 (RFC 4291, appendix A); systems with stable or temporary identifiers (RFC 7217, RFC 8981) choose another"
        >
          configures itself{' '}
          <span className="mono text-teal">{formatAddress(autoconfigured(prefix, mac.value))}</span>
        </span>
      )}
      {mac?.ok === false && (
        <span role="alert" className="text-signal">
          {mac.sentence}
        </span>
      )}
    </div>
  );
}
