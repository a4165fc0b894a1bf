/** Services, providers, needs and the order of starting by HTTP. */
import type { GuestSheet, ServiceView, StartOrderView, Written } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, recordSmall, type Person, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
const guests: Record<string, string> = {};
const made = (answer: { body: Written }, kind: string) =>
  answer.body.created.find((found) => found.kind === kind)!.id;
const order = async () => (await keeper.call<StartOrderView>('GET', 'start-order')).body;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  for (const name of ['names', 'web'])
    guests[name] = made(
      await keeper.make<Written>('guest.record', {
        ...guestBody(small, name),
        state: 'in service',
      }),
      'guest',
    );
});
afterAll(() => here.end());

describe('services and needs', () => {
  let serviceId: string;
  it('put a guest a wave behind the one that provides', async () => {
    serviceId = made(
      await keeper.make<Written>('service.record', { name: 'names', what: 'names' }),
      'service',
    );
    expect(
      (await keeper.make('provider.record', { serviceId, guestId: guests.names })).status,
    ).toBe(201);
    expect(
      (
        await keeper.make('need.record', {
          guestId: guests.web,
          serviceId,
          purpose: 'looks up its data base',
        })
      ).status,
    ).toBe(201);
    const found = await order();
    expect(
      found.waves.map((wave) =>
        wave.rows.filter((row) => row.kind === 'guest').map((row) => [row.name, row.up, row.after]),
      ),
    ).toEqual([[], [['names', 360, expect.any(String)]], [['web', 420, 'names']]]);
    expect(found.seconds).toBe(420);
    expect((await keeper.call<GuestSheet>('GET', `guests/${guests.web}`)).body.needs).toMatchObject(
      [{ purpose: 'looks up its data base', service: { name: 'names' }, guest: null }],
    );
  });
  it('close a circle with the host, told with what breaks it', async () => {
    const need = made(
      await keeper.make<Written>('need.record', { hostId: small.hostId, serviceId }),
      'dependency',
    );
    const { circles, waiting, never } = await order();
    expect(circles).toHaveLength(1);
    // The host, the guest that the names come from, and those that wait behind them.
    expect(never).toBe(3);
    expect(circles[0]!.mends.map((mend) => mend.need?.id ?? mend.guestId ?? '')).toEqual([
      '',
      guests.names,
      need,
    ]);
    expect(waiting.rows.map((row) => row.name)).toContain('web');
    expect((await keeper.make('need.remove', { id: need })).status).toBe(201);
    expect((await order()).circles).toEqual([]);
  });
  it.each([
    ['need.record', {}, 'Say who needs it: one host, or one guest.'],
    [
      'need.record',
      { guestId: 'web', hostId: 'host', serviceId: 's' },
      'Say who needs it: one host, or one guest.',
    ],
    ['need.record', { guestId: 'web' }, 'Say what is needed: one service, or one guest.'],
    ['provider.record', {}, 'Say who provides it: one guest, or one device.'],
  ])('%s of %o are refused', async (what, body, sentence) => {
    const ids: Record<string, string> = { web: guests.web!, host: small.hostId, s: serviceId };
    const real = Object.fromEntries(
      Object.entries(body).map(([field, value]) => [field, ids[value as string]]),
    );
    const answer = await keeper.make<{ sentence: string }>(
      what,
      what === 'need.record' ? real : { ...real, serviceId },
    );
    expect([answer.status, answer.body.sentence]).toEqual([422, sentence]);
  });
  it('a service that is needed is not removed; one that is not goes with its providers', async () => {
    expect((await keeper.make('service.remove', { id: serviceId })).status).toBe(409);
    const [need] = (await keeper.call<GuestSheet>('GET', `guests/${guests.web}`)).body.needs;
    await keeper.make('need.remove', { id: need!.id });
    expect((await keeper.make('service.remove', { id: serviceId })).status).toBe(201);
    expect((await keeper.call<ServiceView[]>('GET', 'services')).body).toEqual([]);
  });
});

it('the record of all of it replays', () =>
  expect(here.checkRecord().stdout).toContain('The three agree.'));
