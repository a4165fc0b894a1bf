import { refuse, type Refusal } from '../record/index.js';

/** Ports of one switch or device are told apart by name. */
export function nameTwiceIn(ports: readonly { name: string }[]): Refusal | undefined {
  const seen = new Set<string>();
  for (const [i, { name }] of ports.entries()) {
    const key = name.trim();
    if (seen.has(key))
      return refuse({
        code: 'twice',
        field: `ports.${i}.name`,
        sentence: `The port ${key} stands here twice.`,
      });
    seen.add(key);
  }
  return undefined;
}
