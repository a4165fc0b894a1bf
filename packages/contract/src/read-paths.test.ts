import { describe, expect, it } from 'vitest';
import { READ_PATHS, requestOf } from './read-paths.js';

describe('the request of a read', () => {
  it.each([
    ['sites', {}, 'GET', 'sites'],
    ['host', { id: 'a b/c' }, 'GET', 'hosts/a%20b%2Fc'],
    ['guests', { q: 'ä & ü', take: 5 }, 'GET', 'guests?q=%C3%A4%20%26%20%C3%BC&take=5'],
    ['nextFree', { id: 'x', count: 3 }, 'GET', 'subnets/x/next-free?count=3'],
    ['hostBuildPage', { id: 'x' }, 'GET', 'hosts/x/build-sheet.html'],
    ['failure', { kind: 'host', id: 'x' }, 'GET', 'failures/host/x'],
  ] as const)('%s %o', (name, query, method, path) =>
    expect(requestOf(name, query)).toEqual({ method, path }),
  );

  it('leaves out what is empty, not what is nought', () =>
    expect(requestOf('chart', { label: '', networkId: undefined, from: 0 }).path).toBe(
      'chart?from=0',
    ));

  it('of a long question has a body, with nothing that stands in the path', () =>
    expect(requestOf('factsCompared', { text: '{}', hostId: null })).toEqual({
      method: 'POST',
      path: 'facts/read',
      body: { text: '{}', hostId: null },
    }));
});

it('no path stands twice', () =>
  expect(new Set(Object.values(READ_PATHS)).size).toBe(Object.keys(READ_PATHS).length));
