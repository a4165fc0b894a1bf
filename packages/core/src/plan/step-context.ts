/** Ids and chance of a step, out of its seed: whoever decides it, whenever, gets the same. */
import type { Context, Row } from '../record/index.js';

/** Four numbers of 32 bits out of a text (cyrb128, public domain, from memory). */
function hashOf(text: string): [number, number, number, number] {
  let [a, b, c, d] = [1779033703, 3144134277, 1013904242, 2773480762];
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    a = b ^ Math.imul(a ^ code, 597399067);
    b = c ^ Math.imul(b ^ code, 2869860233);
    c = d ^ Math.imul(c ^ code, 951274213);
    d = a ^ Math.imul(d ^ code, 2716044179);
  }
  a = Math.imul(c ^ (a >>> 18), 597399067);
  b = Math.imul(d ^ (b >>> 22), 2869860233);
  c = Math.imul(a ^ (c >>> 17), 951274213);
  d = Math.imul(b ^ (d >>> 19), 2716044179);
  return [(a ^ b ^ c ^ d) >>> 0, (b ^ a) >>> 0, (c ^ a) >>> 0, (d ^ a) >>> 0];
}

/** In the layout of UUID version 7 (RFC 9562, section 5.7): time of drawing, the rest out of seed and number. */
export function stepId(seed: string, drawnAt: string, number: number): string {
  const time = Date.parse(drawnAt).toString(16).padStart(12, '0');
  const rest = hashOf(`${seed} ${number}`)
    .map((part) => part.toString(16).padStart(8, '0'))
    .join('');
  const variant = ((Number.parseInt(rest[3]!, 16) & 3) | 8).toString(16);
  return `${time.slice(0, 8)}-${time.slice(8)}-7${rest.slice(0, 3)}-${variant}${rest.slice(4, 7)}-${rest.slice(8, 20)}`;
}

/** 128 bits of a text, as 32 hexadecimal digits: to know again what was looked at, not to keep anybody out. */
export const digestOf = (text: string): string =>
  hashOf(text)
    .map((part) => part.toString(16).padStart(8, '0'))
    .join('');

export function contextOfStep(
  { seed, drawnAt }: Pick<Row<'planStep'>, 'seed' | 'drawnAt'>,
  context: Context,
): Context {
  let ids = 0;
  let bytes = 0;
  return {
    ...context,
    newId: () => stepId(seed, drawnAt, (ids += 1)),
    randomByte: () => hashOf(`${seed} byte ${(bytes += 1)}`)[0] & 255,
  };
}
