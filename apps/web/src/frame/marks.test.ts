/** Which questions are asked again after a change: those whose answers it alters, and those that nobody watches. */
import { QueryClient } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { askAgain, begun, mark, unmark } from './marks.js';

function asked(...names: string[]) {
  const client = new QueryClient();
  for (const name of names) client.setQueryData([name], 'an answer');
  const of = (name: string) => client.getQueryCache().find({ queryKey: [name] })!;
  const stale = () => {
    const found = names.filter((name) => of(name).state.isInvalidated);
    for (const name of found) client.setQueryData([name], 'the next');
    return found;
  };
  return { client, of, stale };
}

it('what is altered and what nobody watches, never who is signed in', () => {
  const { client, of, stale } = asked('session', 'hosts', 'guests', 'log');
  begun(client, { server: 'a', known: false });
  expect(stale()).toEqual([]);
  mark(of('hosts'), 'a.1');
  mark(of('guests'), 'a.2');
  askAgain(client, ['a.2']);
  expect(stale()).toEqual(['guests', 'log']);
  // While a question is under way nothing is known of its answer.
  unmark(of('hosts'));
  askAgain(client, []);
  expect(stale()).toContain('hosts');
  mark(of('hosts'), 'a.3');
  askAgain(client, 'all');
  expect(stale()).toEqual(['hosts', 'guests', 'log']);
});

it('marks of another server say nothing, and all is asked again where nobody listened meanwhile', () => {
  const { client, of, stale } = asked('hosts');
  // Asked between two streams a window is known again, but what was watched before is not.
  mark(of('hosts'), 'a.9');
  begun(client, { server: 'b', known: true });
  expect(stale()).toEqual(['hosts']);
  mark(of('hosts'), 'b.1');
  askAgain(client, []);
  expect(stale()).toEqual([]);
  mark(of('hosts'), 'a.10');
  askAgain(client, []);
  expect(stale()).toEqual(['hosts']);
});

it('an answer that arrives after it was told of is asked for again', async () => {
  const { client, of, stale } = asked('hosts', 'guests');
  begun(client, { server: 'c', known: true });
  askAgain(client, ['c.1']);
  stale();
  mark(of('hosts'), 'c.1');
  mark(of('guests'), 'c.2');
  await new Promise((resolve) => setTimeout(resolve, 5));
  expect(stale()).toEqual(['hosts']);
});
