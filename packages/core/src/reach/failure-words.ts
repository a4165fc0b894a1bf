import type { Echo, Failure } from './journey.js';

export type FailureCode = Failure['code'] | 'answered-by-another';

/** What a failure means, in a few words. */
export const FAILURE_WORDS: Readonly<Record<FailureCode, string>> = {
  'sender-off': 'it is not running',
  'no-address': 'no address',
  'no-route': 'no way: gateway missing or outside its subnet',
  'not-joined': 'joined to no network',
  'nobody-answers': 'nobody answers on the segment',
  'does-not-forward': 'a machine on the way does not forward',
  'not-forwarded-inside': 'behind translation, or inside a host',
  'not-carried-outside': 'sent outside, where nobody knows a way',
  'broadcast-here': 'taken for a broadcast address',
  'strong-host': 'a machine answers by the adapter that has the address only',
  'reverse-path': 'a machine drops what it would answer by another way',
  'answers-as-another': 'the answer comes from another address than was asked',
  blackholed: 'a route drops it on purpose',
  loop: 'goes round in a circle',
  'answered-by-another': 'the address is carried twice',
};

/** The first thing that failed; null: nothing did. */
export const failureOf = ({
  verdict,
  request,
  reply,
}: Pick<Echo, 'verdict' | 'request' | 'reply'>): FailureCode | null =>
  verdict === 'yes'
    ? null
    : (request.failure?.code ?? reply?.failure?.code ?? 'answered-by-another');
