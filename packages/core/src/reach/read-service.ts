import type { Service } from './machine.js';

/**
 * A port with its protocol as people write it; TCP where none is said.
 * @example readService('443/tcp') // { ok: true, value: { protocol: 'tcp', port: 443 } }
 */
export function readService(
  text: string,
): { ok: true; value: Service } | { ok: false; sentence: string } {
  const words = text
    .toLowerCase()
    .split(/[\s/:,]+/)
    .filter(Boolean);
  const numbers = words.filter((word) => /^\d+$/.test(word));
  const protocols = words.filter((word) => word === 'tcp' || word === 'udp');
  const port = Number(numbers[0]);
  const whole = numbers.length === 1 && protocols.length <= 1;
  if (!whole || words.length !== numbers.length + protocols.length)
    return { ok: false, sentence: `${text.trim()} is no port: write it as 443/tcp or 53/udp.` };
  if (port < 1 || port > 65_535)
    return { ok: false, sentence: `Ports go from 1 to 65535, not ${numbers[0]}.` };
  return { ok: true, value: { protocol: protocols[0] === 'udp' ? 'udp' : 'tcp', port } };
}
