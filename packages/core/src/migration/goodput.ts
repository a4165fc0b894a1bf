/**
 * What a link really carries: TCP payload per byte on the wire. A full frame costs MTU + 38 bytes on Ethernet (preamble
 * and delimiter 8, header 14, check sequence 4, gap 12; IEEE Std 802.3) and 4 more per VLAN tag; its payload is the MTU
 * less IP (20 or 40), TCP (20) and the timestamps option (12, RFC 7323).
 */
import type { BitsPerSecond, BytesPerSecond } from '../quantity/index.js';

export interface Framing {
  mtu: number;
  family?: 4 | 6;
  timestamps?: boolean;
  tags?: number;
}

/** Payload share of the wire, in (0, 1]. @example efficiency({ mtu: 1500 }) // 1448 / 1538 */
export function efficiency({ mtu, family = 4, timestamps = true, tags = 0 }: Framing): number {
  const payload = mtu - (family === 4 ? 20 : 40) - 20 - (timestamps ? 12 : 0);
  if (payload <= 0) throw new RangeError(`an MTU of ${mtu} carries no payload`);
  return payload / (mtu + 38 + 4 * tags);
}

/** Payload in bytes per second of one TCP connection that fills the link. */
export function goodput(link: BitsPerSecond, framing: Framing): BytesPerSecond {
  return (link / 8) * efficiency(framing);
}
