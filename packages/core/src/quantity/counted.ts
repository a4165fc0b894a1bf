/** A number with its noun. @example counted(1, 'host') // '1 host' @example counted(1200, 'address', 'addresses') // '1,200 addresses' */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`;

/** One minus everywhere, as wide as the digits. @example withMinus('-3') // '−3' */
export const withMinus = (text: string): string => text.replace(/^-/, '−');

/** The name of a kind of record as words. @example kindWords('buildTick') // 'build tick' */
export const kindWords = (kind: string): string =>
  kind.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** Some names and how many more. @example fewNames(['a', 'b', 'c', 'd']) // 'a, b, c and 1 more' */
export function fewNames(names: readonly string[]): string {
  const shown = names.slice(0, 3).join(', ');
  return names.length > 3 ? `${shown} and ${names.length - 3} more` : shown;
}

/** @example fieldWords('memoryMiB') // 'memory' @example fieldWords('hostId') // 'host' @example fieldWords('vcpu') // 'vCPU' */
export const fieldWords = (field: string): string =>
  SPELT[field] ?? (kindWords(field.replace(/(MiB|Bytes|Ids?)$/, '')).trim() || 'size');

/** Fields whose words are spelt otherwise than their names. */
const SPELT: Readonly<Record<string, string>> = {
  vcpu: 'vCPU',
  vcpuPerCore: 'vCPU per core',
  mac: 'MAC',
  mtu: 'MTU',
  ip: 'address',
  atIp: 'at which address',
  toIp: 'leads to',
  copyFromIp: 'copying address of the source',
  copyToIp: 'copying address of the target',
  vlanId: 'VLAN',
  baseMhz: 'base MHz',
  uefi: 'UEFI',
};

/** Fields that were given, in words. */
export const givenWords = (fields: object): string =>
  Object.keys(fields).map(fieldWords).join(', ');
