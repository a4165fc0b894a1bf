/** Coming up after a failure: times worked by hand beside each. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { restartOrder } from './restart-order.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  for (const [i, name] of ['names', 'site', 'shop'].entries())
    world.make(world.found(name, 'gannet', 256, `192.0.2.${20 + i}`));
  world.make(world.found('far', 'tern', 256, '192.0.2.40'));
});
const id = (name: string) => world.id('guest', name);
const needs = (one: string, other: string) =>
  world.make({ type: 'need.record', input: { guestId: id(one), onGuestId: id(other) } });
const hit = (names: string[], lost: string[] = []) =>
  restartOrder(world.fleet, [
    ...names.map((name) => ({ guestId: id(name), onHostId: world.id('host', 'tern') })),
    ...lost.map((name) => ({ guestId: id(name), onHostId: null })),
  ]);

describe('coming up elsewhere', () => {
  it('all at once where nobody needs another: a minute', () => {
    expect(hit(['names', 'site'])).toMatchObject({ seconds: 60, blocked: [] });
  });
  it('one after another by what they need; what was not hit is up already', () => {
    needs('site', 'names');
    needs('shop', 'site');
    needs('names', 'far');
    const found = hit(['names', 'site', 'shop']);
    expect(found).toMatchObject({ seconds: 180, last: 'shop' });
    expect(found.up).toEqual({ [id('names')]: 60, [id('site')]: 120, [id('shop')]: 180 });
  });
  it('a host that starts one at once lets them wait for their turn', () => {
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), startsAtOnce: 1 } });
    expect(hit(['names', 'site', 'shop']).seconds).toBe(180);
  });
  it('who needs one that does not restart is never of use, nor who needs that one', () => {
    needs('site', 'names');
    needs('shop', 'site');
    expect(hit(['site', 'shop'], ['names'])).toMatchObject({
      seconds: 0,
      last: '',
      blocked: [
        { name: 'shop', waitsFor: ['site'] },
        { name: 'site', waitsFor: ['names'] },
      ],
    });
  });
  it('a service is there while anybody beyond provides it', () => {
    world.make({ type: 'service.record', input: { name: 'names', what: 'names' } });
    const serviceId = world.id('service', 'names');
    world.make({ type: 'provider.record', input: { serviceId, guestId: id('names') } });
    world.make({ type: 'need.record', input: { guestId: id('site'), serviceId } });
    expect(hit(['names', 'site']).seconds).toBe(120);
    expect(hit(['site'], ['names']).blocked).toMatchObject([{ name: 'site', waitsFor: ['names'] }]);
    world.make({ type: 'provider.record', input: { serviceId, guestId: id('far') } });
    expect(hit(['names', 'site']).seconds).toBe(60);
    expect(hit(['site'], ['names']).blocked).toEqual([]);
  });
  it('a circle among those that were hit comes up nowhere', () => {
    needs('site', 'names');
    needs('names', 'site');
    expect(hit(['names', 'site', 'shop'])).toMatchObject({ last: 'shop', seconds: 60 });
    expect(hit(['names', 'site', 'shop']).blocked.map(({ name }) => name)).toEqual([
      'names',
      'site',
    ]);
  });
});
