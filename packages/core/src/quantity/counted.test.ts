import { expect, it } from 'vitest';
import { counted, withMinus } from './index.js';

it.each([
  [0, 'host', undefined, '0 hosts'],
  [1, 'host', undefined, '1 host'],
  [2, 'address', 'addresses', '2 addresses'],
  [1200, 'line', undefined, '1,200 lines'],
])('%i %s', (n, one, many, words) => expect(counted(n, one, many)).toBe(words));

it('one minus', () => expect([withMinus('-3'), withMinus('3-4')]).toEqual(['−3', '3-4']));
