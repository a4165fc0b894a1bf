/** What a file of names says against what the record says. */
import { addressOfReverse } from '../address/index.js';
import type { Fleet } from '../record/index.js';
import { machineNames, type MachineName } from './machine-names.js';
import type { ReadName } from './read-names.js';

export interface NameDifference {
  /** Line of the file, counted from 1. */
  line: number;
  sentence: string;
}

/** @param most how many differences are told; the names that agree are counted in full */
export function compareNames(
  fleet: Fleet,
  names: readonly ReadName[],
  most: number,
): { agree: number; differ: NameDifference[] } {
  const machines = machineNames(fleet);
  const known = {
    byName: new Map(machines.map((machine) => [machine.full, machine])),
    byIp: new Map(
      machines.flatMap((machine) => machine.addresses.map(({ ip }) => [ip, machine] as const)),
    ),
  };
  let agree = 0;
  const differ: NameDifference[] = [];
  for (const name of names) {
    const sentence = differenceOf(known, name);
    if (!sentence) agree += 1;
    else if (differ.length < most) differ.push({ line: name.line, sentence });
  }
  return { agree, differ };
}

function differenceOf(
  { byName, byIp }: { byName: Map<string, MachineName>; byIp: Map<string, MachineName> },
  { owner, type, data }: ReadName,
): string | undefined {
  if (type === 'CNAME')
    return byName.has(data) || byName.has(owner)
      ? undefined
      : `${owner} is another name of ${data}, which the record does not know.`;
  const [name, ip] = type === 'PTR' ? [data, addressOfReverse(owner) ?? owner] : [owner, data];
  const machine = byName.get(name);
  if (!machine)
    return byIp.has(ip)
      ? `${ip} is ${byIp.get(ip)!.full} in the record, not ${name}.`
      : `${name} (${ip}) is not in the record.`;
  return machine.addresses.some((address) => address.ip === ip)
    ? undefined
    : `${name} is ${machine.addresses.map((address) => address.ip).join(', ')} in the record, not ${ip}.`;
}
