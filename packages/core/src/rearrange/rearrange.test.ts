import { beforeEach, describe, expect, it } from 'vitest';
import { decide } from '../change/decide.js';
import { smallWorld, type World } from '../change/testing.js';
import { planFleet, type DecideDrawn } from '../plan/plan-fleet.js';
import { isRefusal } from '../record/index.js';
import {
  rearranged,
  rearrangeProblem,
  solveRearrangement,
  type HourlyUse,
  type RearrangeAsk,
} from './index.js';

let world: World;
/** Two hosts of 16 GiB (14,336 MiB for guests) that share a pool; a guest of 4 GiB asks 4,297 MiB. */
beforeEach(() => {
  world = smallWorld();
  world.make({
    type: 'pool.record',
    input: {
      name: 'quay',
      usableBytes: 1e13,
      hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
    },
  });
});

function run(name: string, host: string, gib: number, pool = 'quay', state = 'in service'): string {
  world.make({
    type: 'guest.record',
    input: {
      name,
      hostId: world.id('host', host),
      state: state as 'in service',
      family: 'Linux',
      vcpu: 1,
      memoryMiB: gib * 1024,
      volumes: [{ poolId: world.id('pool', pool), bytes: 10 * 1024 ** 3 }],
      adapters: [{ networkId: world.id('network', 'shore'), address: { as: 'none' } }],
    },
  });
  return world.id('guest', name);
}

function ask(
  aim: RearrangeAsk['aim'],
  more: Partial<RearrangeAsk> = {},
  use?: readonly HourlyUse[],
) {
  const asked: RearrangeAsk = {
    aim,
    groupId: world.fleet.need('host', world.id('host', 'gannet')).groupId,
    emptiedIds: aim === 'empty' ? [world.id('host', 'gannet')] : [],
    mostMoves: 10,
    keepTolerance: false,
    linkBitsPerSecond: 1e9,
    ...more,
  };
  const { problem, unmovable } = rearrangeProblem(world.fleet, asked, { use });
  return rearranged(world.fleet, asked, problem, solveRearrangement(problem), unmovable);
}

describe('emptying a host', () => {
  it('moves its guests where they fit, with times; the host is empty then', () => {
    run('tide', 'gannet', 4);
    run('log', 'gannet', 2, 'quay', 'stopped');
    const found = ask('empty');
    expect(found.headline).toBe('gannet can be emptied by 2 moves.');
    expect(found.proof).toBe('Proved: no plan moves less.');
    expect(
      found.moves.map(({ name, from, to, why, toPool }) => [name, from, to, why, toPool]),
    ).toEqual([
      ['tide', 'gannet', 'tern', 'leaves', null],
      ['log', 'gannet', 'tern', 'leaves', null],
    ]);
    expect(found.hosts.find(({ name }) => name === 'gannet')).toMatchObject({
      before: { guests: 2 },
      after: { guests: 0 },
      empty: true,
    });
  });

  it('who stops over elsewhere on the way, and who steps aside and comes back, is told so', () => {
    world.host('skua', 16);
    const [tide, log] = [run('tide', 'gannet', 4), run('log', 'tern', 2)];
    const asked: RearrangeAsk = {
      ...{ aim: 'empty', groupId: null, emptiedIds: [world.id('host', 'gannet')], mostMoves: 10 },
      ...{ keepTolerance: false, linkBitsPerSecond: 1e9 },
    };
    const { problem, unmovable } = rearrangeProblem(world.fleet, asked, {});
    const hostOf = (name: string) => problem.hostIds.indexOf(world.id('host', name));
    const move = (id: string, from: string, to: string) => ({
      unit: problem.guestIds.indexOf(id),
      ...{ from: hostOf(from), to: hostOf(to) },
    });
    const moves = [
      ...[move(log, 'tern', 'skua'), move(tide, 'gannet', 'tern')],
      ...[move(tide, 'tern', 'skua'), move(log, 'skua', 'tern')],
    ];
    const at = problem.start.slice();
    for (const { unit, to } of moves) at[unit] = to;
    const solution = { ...solveRearrangement(problem), moves, at };
    const found = rearranged(world.fleet, asked, problem, solution, unmovable);
    expect(found.moves.map(({ name, why }) => [name, why])).toEqual([
      ...[['log', 'stops over'], ['tide', 'stops over']], // prettier-ignore
      ...[['tide', 'leaves'], ['log', 'comes back']], // prettier-ignore
    ]);
  });
  it('says what is missing where there is no room, and proves it', () => {
    run('tide', 'gannet', 8);
    run('ebb', 'tern', 8);
    const found = ask('empty');
    expect(found.headline).toBe('1 guest cannot leave gannet; 0 moves can be made.');
    expect(found.proof).toMatch(/^Proved: no placement of all guests/);
    // 14,336 − 8,192 − its overhead of 201 = 5,943 left; 8,393 asked.
    expect(found.stuck).toEqual([
      {
        guestId: world.id('guest', 'tide'),
        name: 'tide',
        why: 'no host that suits it has the room',
        mend: expect.stringMatching(
          /^tern would take it with 2\.\d+ GiB of memory more\.$/,
        ) as string,
      },
    ]);
  });

  it('what is not built yet moves without a copy; what has a migration under way stays, and why', () => {
    run('later', 'gannet', 1, 'quay', 'planned');
    const id = run('under-way', 'gannet', 1);
    world.make({
      type: 'migration.plan',
      input: {
        guestId: id,
        targetHostId: world.id('host', 'tern'),
        targetPoolId: null,
        running: true,
        linkBitsPerSecond: 1e9,
      },
      override: 'a test',
    });
    const found = ask('empty');
    expect(found.moves).toMatchObject([{ name: 'later', bytes: 0, seconds: 0 }]);
    expect(found.stuck).toMatchObject([
      { name: 'under-way', why: 'it has a migration to tern that is planned' },
    ]);
  });

  it('disks that lie on the host alone go along to a pool of the target, or the guest stays', () => {
    run('own', 'gannet', 1, 'gannet-data');
    const found = ask('empty');
    if (found.moves.length > 0) {
      expect(found.moves[0]).toMatchObject({ name: 'own', to: 'tern' });
      expect(found.moves[0]!.toPoolId).not.toBeNull();
    } else expect(found.stuck[0]!.mend).toMatch(/in a pool of its own more/);
  });

  it('what no pool of the target holds alone is not moved, whatever the search thought', () => {
    run('own', 'gannet', 1, 'gannet-data');
    const asked: RearrangeAsk = {
      aim: 'empty',
      groupId: null,
      emptiedIds: [world.id('host', 'gannet')],
      mostMoves: 1,
      keepTolerance: false,
      linkBitsPerSecond: 1e9,
    };
    const { problem, unmovable } = rearrangeProblem(world.fleet, asked);
    const solution = solveRearrangement(problem);
    expect(solution.moves).toHaveLength(1);
    // Since then the pool has become too small.
    const tern = world.fleet.need('pool', world.id('pool', 'tern-data'));
    world.make({ type: 'pool.edit', input: { id: tern.id, usableBytes: 1e9 } });
    const found = rearranged(world.fleet, asked, problem, solution, unmovable);
    expect(found).toMatchObject({
      moves: [],
      stuck: [{ name: 'own', why: 'no pool of tern alone has the room for its disks' }],
      proof: 'That nothing would empty it is not proved.',
    });
    for (const aim of ['fewest', 'even'] as const)
      expect(
        rearranged(world.fleet, { ...asked, aim }, problem, solution, unmovable).headline,
      ).toMatch(/^0 moves of those that were found can be made: own goes no further/);
  });

  it('pools of one host are taken together only for what is proved impossible', () => {
    world.make({
      type: 'pool.record',
      input: {
        name: 'tern-more',
        usableBytes: 64 * 1024 ** 3,
        hostIds: [world.id('host', 'tern')],
      },
    });
    run('own', 'gannet', 1, 'gannet-data');
    const { problem } = rearrangeProblem(world.fleet, {
      aim: 'empty',
      groupId: null,
      emptiedIds: [world.id('host', 'gannet')],
      mostMoves: 1,
      keepTolerance: false,
      linkBitsPerSecond: 1e9,
    });
    const tern = problem.hostIds.indexOf(world.id('host', 'tern'));
    const disk = (room: Float64Array) => room[tern * problem.question.dims + 2]!;
    expect(disk(problem.mostRoom) - disk(problem.question.room)).toBe(64 * 1024);
  });

  it('a group is spread as far as there are places: two of it share the host that is left', () => {
    world.make({ type: 'guest-group.record', input: { name: 'watch', spread: 'host' } });
    const ids = [run('one', 'gannet', 1), run('other', 'tern', 1)];
    world.make({
      type: 'guest.edit-many',
      input: { ids, groupId: world.id('guestGroup', 'watch') },
    });
    expect(ask('empty')).toMatchObject({ stuck: [], moves: [{ name: 'one', to: 'tern' }] });
    // Both hosts open, they do not share.
    expect(ask('fewest').moves).toEqual([]);
  });

  it('a rule that keeps guests apart is kept', () => {
    const [one, other] = [run('one', 'gannet', 1), run('other', 'tern', 1)];
    world.make({
      type: 'rule.set',
      input: {
        name: 'both ends',
        rule: 'apart',
        scope: 'host',
        hostId: null,
        guestIds: [one, other],
      },
    });
    expect(ask('empty').stuck).toMatchObject([
      { name: 'one', why: expect.stringMatching(/^rules keep it from tern/) as string },
    ]);
  });
});

describe('with the fewest hosts', () => {
  it('frees the lighter one, and says that one is the least', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    const found = ask('fewest');
    expect(found.headline).toBe(
      '1 host can hold what 2 hold now, by 1 move: 1 could be switched off.',
    );
    expect(found.proof).toMatch(/^Proved: no placement uses fewer than 1/);
    expect(found.moves).toMatchObject([{ name: 'ebb', to: 'gannet', why: 'leaves' }]);
  });
  it('unless the other must be able to fail', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    expect(ask('fewest', { keepTolerance: true }).moves).toEqual([]);
  });
});

it('evens out, and says what each move gains', () => {
  run('tide', 'gannet', 4);
  run('ebb', 'gannet', 4);
  const found = ask('even');
  expect(found.moves).toHaveLength(1);
  expect(found.headline).toMatch(/^1 move brings the fullest host from/);
  const shares = found.hosts.map(({ after }) => after.memoryPercent);
  expect(shares[0]).toBeCloseTo(shares[1]!, 6);
});

describe('drawn as a plan', () => {
  it('each move is a step: a migration, or another home for what is not built yet', () => {
    const [tide, later] = [run('tide', 'gannet', 4), run('later', 'gannet', 1, 'quay', 'planned')];
    const { moves } = ask('empty');
    world.make({
      type: 'plan.draw-moves',
      input: {
        name: 'empty gannet',
        linkBitsPerSecond: 1e9,
        moves: moves.map(({ guestId, toHostId, toPoolId, running, why }) => ({
          guestId,
          targetHostId: toHostId,
          targetPoolId: toPoolId,
          running,
          remark: why,
        })),
      },
    });
    const { would, outcomes } = planFleet(
      world.fleet,
      world.id('plan', 'empty gannet'),
      world.context(),
      decide as unknown as DecideDrawn,
    );
    expect(outcomes.map(({ decision }) => isRefusal(decision))).toEqual([false, false]);
    const tern = world.id('host', 'tern');
    expect(would.need('guest', later).hostId).toBe(tern);
    expect(would.referring('migration', 'guestId', tide)).toMatchObject([{ targetHostId: tern }]);
  });
  it('is refused without a move (no-moves)', () => {
    const refused = world.try({
      type: 'plan.draw-moves',
      input: { name: 'nothing', linkBitsPerSecond: 1e9, moves: [] },
    });
    expect(refused).toMatchObject({ code: 'no-moves' });
  });
});

describe('evening out by what was measured', () => {
  /** Busy in some hours, at rest in the others. */
  const hourly = (guestId: string, busy: readonly number[], days = 30): HourlyUse => ({
    ...{ guestId, days },
    cpuPercent: Array.from({ length: 24 }, (_, hour) => (busy.includes(hour) ? 90 : 0)),
    memoryMiB: Array.from({ length: 24 }, () => 500),
  });
  const [morning, evening] = [[7, 8, 9], [19, 20]]; // prettier-ignore

  it('parts those that work at the same hours; given the same, nothing would move', () => {
    const ids = ['dawn', 'lark', 'dusk', 'owl'].map((name, i) =>
      run(name, i < 2 ? 'gannet' : 'tern', 4),
    );
    const use = ids.map((id, i) => hourly(id, i < 2 ? morning : evening));
    expect(ask('even').moves).toEqual([]);
    const found = ask('even', { by: 'used' }, use);
    // 8 cores: two that are busy at once take 1.8 of them, 22.5 %; one 11.25 %. Memory: 2 · (500 + 193) of 14,336 MiB, 9.67 %.
    // Before, 5 hours of 48 at 22.5 and 43 at 9.67: spread 3.9; after, 10 at 11.25 and 38 at 9.67: 0.6.
    expect(found.headline).toBe(
      '2 moves bring the fullest hour of a host from 22.5 % to 11.3 %, and the spread from 3.9 % to 0.6 %.',
    );
    expect(found.assumes).toMatch(
      /^Measured: 4 of the 4 guests that count, .* \(UTC\) over up to 30 days\. /,
    );
    expect(found.hosts.map(({ used }) => used)).toEqual([
      { before: 22.5, after: 11.25 },
      { before: 22.5, after: 11.25 },
    ]);
  });

  it('who was not measured long enough, or not at every hour, counts with all it was given', () => {
    const [dawn, lark, dusk] = ['dawn', 'lark', 'dusk'].map((name) => run(name, 'gannet', 4));
    const short = hourly(lark!, morning, 6.9);
    const holed = { ...hourly(dusk!, morning), memoryMiB: [null, ...Array<number>(23).fill(500)] };
    const found = ask('even', { by: 'used', mostMoves: 1 }, [hourly(dawn!, morning), short, holed]);
    expect(found.assumes).toContain('1 of the 3 guests that count');
    expect(found.assumes).toContain('the other 2 count with all that was given');
    // What is not known is not nothing: two of 4,289 MiB each and 693 MiB, of 14,336.
    expect(found.hosts[0]!.used!.before).toBeCloseTo(((2 * 4289 + 693) / 14_336) * 100, 6);
  });

  it('where nobody was measured, it says so, and asks by what was given', () => {
    run('dawn', 'gannet', 4);
    run('lark', 'gannet', 4);
    const found = ask('even', { by: 'used' });
    expect(found.assumes).toBe(
      'None of the 2 guests that count was measured for 7 days in every hour: each counts with all that was given.',
    );
    expect(found.moves).toHaveLength(1);
  });

  it('what is stopped uses nothing; room is asked by what was given all the same', () => {
    const ids = [run('dawn', 'gannet', 6), run('lark', 'gannet', 6), run('full', 'tern', 10)];
    run('still', 'gannet', 1, 'quay', 'stopped');
    const found = ask('even', { by: 'used' }, [
      hourly(ids[0]!, morning),
      hourly(ids[1]!, morning),
      { ...hourly(ids[2]!, []), memoryMiB: Array<number>(24).fill(0) },
    ]);
    // tern uses next to nothing, and has no room for 6 GiB more.
    expect(found.moves).toEqual([]);
    expect(found.assumes).toContain('3 of the 3 guests that count');
  });
});
