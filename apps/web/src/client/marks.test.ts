/** Which questions are asked again after a change: those whose answers it alters, and those that nobody watches. */
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { noteRevision } from './api.js';
import { askAgain, asking, begun } from './marks.js';

function asked(...names: string[]) {
  const client = new QueryClient();
  for (const name of names) client.setQueryData([name], 'an answer');
  const of = (name: string) => client.getQueryCache().find({ queryKey: [name] })!;
  const mark = (name: string, given: string) => asking(client, of(name)).marked(given);
  const stale = () => {
    const found = names.filter((name) => of(name).state.isInvalidated);
    for (const name of found) client.setQueryData([name], 'the next');
    return found;
  };
  return { client, of, mark, stale };
}

/** A question on the screen, answered by hand. */
function onScreen(name: string) {
  const client = new QueryClient();
  const answers: ((answer: string) => void)[] = [];
  const marked: ((given: string) => void)[] = [];
  const queryKey = [name];
  const observer = new QueryObserver(client, {
    queryKey,
    queryFn: () => {
      marked.push(asking(client, client.getQueryCache().find({ queryKey, exact: true })).marked);
      return new Promise<string>((resolve) => answers.push(resolve));
    },
  });
  observer.subscribe(() => undefined);
  const answer = async (n: number, mark: string | null) => {
    if (mark) marked[n]!(mark);
    answers[n]!(`answer ${n}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  };
  return { client, answers, answer, shown: () => observer.getCurrentResult().data };
}

it('what is altered and what nobody watches, never who is signed in', () => {
  const { client, of, mark, stale } = asked('session', 'hosts', 'guests', 'log');
  begun(client, { server: 'a', known: false });
  expect(stale()).toEqual([]);
  mark('hosts', 'a.1');
  mark('guests', 'a.2');
  askAgain(client, ['a.2']);
  expect(stale()).toEqual(['guests', 'log']);
  // While a question is under way nothing is known of its answer.
  asking(client, of('hosts'));
  askAgain(client, []);
  expect(stale()).toContain('hosts');
  mark('hosts', 'a.3');
  askAgain(client, 'all');
  expect(stale()).toEqual(['hosts', 'guests', 'log']);
});

it('marks of another server say nothing, and all is asked again where nobody listened meanwhile', () => {
  const { client, mark, stale } = asked('hosts');
  // Asked between two streams a window is known again, but what was watched before is not.
  mark('hosts', 'a.9');
  begun(client, { server: 'b', known: true });
  expect(stale()).toEqual(['hosts']);
  mark('hosts', 'b.1');
  askAgain(client, []);
  expect(stale()).toEqual([]);
  mark('hosts', 'a.10');
  askAgain(client, []);
  expect(stale()).toEqual(['hosts']);
});

it('what was asked for as of a change already is not asked again for it', () => {
  const { client, of, stale } = asked('findings', 'hosts');
  noteRevision(8);
  asking(client, of('findings'));
  askAgain(client, [], 8);
  expect(stale()).toEqual(['hosts']);
  askAgain(client, [], 9);
  expect(stale()).toEqual(['findings', 'hosts']);
  // An older state was put back: revisions say nothing then.
  askAgain(client, 'all', 7);
  expect(stale()).toEqual(['findings', 'hosts']);
});

it('of two questions under way the mark of the later one counts, whichever arrives first', async () => {
  begun(new QueryClient(), { server: 'd', known: true });
  const { client, answers, answer } = onScreen('hosts');
  await answer(0, 'd.1');
  void client.invalidateQueries();
  void client.invalidateQueries();
  await answer(2, 'd.3');
  await answer(1, 'd.2');
  askAgain(client, ['d.2'], 20);
  expect(answers).toHaveLength(3);
  askAgain(client, ['d.3'], 21);
  expect(answers).toHaveLength(4);
});

it('a first answer that no longer holds as it arrives is asked for again', async () => {
  begun(new QueryClient(), { server: 'e', known: true });
  const { client, answers, answer, shown } = onScreen('hosts');
  // It was watched, and is told of before it is there.
  askAgain(client, ['e.1'], 30);
  await answer(0, 'e.1');
  expect([answers.length, shown()]).toEqual([2, 'answer 0']);
  await answer(1, 'e.2');
  expect([answers.length, shown()]).toEqual([2, 'answer 1']);
});

it('a first answer that nobody watches is asked for again after a change meanwhile; a watched one that holds is not', async () => {
  const unwatched = onScreen('findings');
  askAgain(unwatched.client, [], 40);
  await unwatched.answer(0, null);
  expect(unwatched.answers).toHaveLength(2);
  const watched = onScreen('hosts');
  askAgain(watched.client, [], 41);
  await watched.answer(0, 'e.7');
  expect(watched.answers).toHaveLength(1);
  const all = onScreen('guests');
  askAgain(all.client, 'all');
  await all.answer(0, 'e.8');
  expect(all.answers).toHaveLength(2);
});

it('what is shown is known by its digest, that of the newest question', async () => {
  const { client, of } = asked('tolerance');
  expect(asking(client, of('tolerance')).known).toBeUndefined();
  const [first, second] = [asking(client, of('tolerance')), asking(client, of('tolerance'))];
  second.digested('two');
  first.digested('one');
  expect(asking(client, of('tolerance')).known).toBe('two');
  // Nothing is shown any more: whatever comes is new.
  client.removeQueries();
  void client.prefetchQuery({ queryKey: ['tolerance'], queryFn: () => 'anew' });
  expect(asking(client, of('tolerance')).known).toBeUndefined();
});
