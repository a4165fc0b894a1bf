/** No figure without its workings: what the lines say, taken in order, gives the value. */
import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import { capacity, headroom, largestGuest, poolFigures } from '../host/index.js';
import { estimate } from '../migration/index.js';
import { subnetFigures } from '../network/index.js';
import { printValue, printWorkings, type Figure } from './index.js';

/** Works a figure out from its lines, as a person with a pencil would; '=' lines are subtotals that must agree. */
function workOut(figure: Figure): number {
  let sum = 0;
  for (const line of figure.lines) {
    const value = line.value!;
    if (line.operator === '·') sum = line.unit === 'bit/s' ? sum : value;
    else if (line.operator === '+') sum += value;
    else if (line.operator === '−') sum -= value;
    else if (line.operator === '×')
      sum = line.unit === 'percent' ? Math.floor((sum * value) / 100) : sum * value;
    else if (line.operator === '÷')
      sum = figure.unit === 'percent' ? (sum / value) * 100 : sum / value;
    else expect(sum).toBeCloseTo(value, 6);
    if (line.operator === '=') break;
  }
  return sum;
}

describe('the workings of every figure add up', () => {
  const world = smallWorld();
  world.make(world.found('old', 'gannet', 5000, '192.0.2.9'));
  world.make(world.plan('tide', 'gannet', 4096));
  world.make(world.plan('mist', 'tern', 1024));
  const gannet = world.id('host', 'gannet');
  const has = capacity(world.fleet, gannet);
  const room = headroom(world.fleet, gannet);
  const pool = poolFigures(world.fleet, world.id('pool', 'gannet-data'));
  const [subnet] = [...world.fleet.all('subnet')];
  const addresses = subnetFigures(world.fleet, subnet!.id);
  const times = estimate({ bytes: 5e10, link: 1e9, mtu: 1500, sameRoute: [], anyRoute: [] });
  const figures = [
    has.memory,
    has.vcpu,
    room.memoryUsed,
    room.vcpuUsed,
    pool.left,
    pool.taken,
    addresses.free,
    largestGuest(world.fleet, gannet, 2),
    times.best,
    times.expected,
  ];
  it.each(figures.map((figure) => [figure.name, figure] as const))('%s', (_, figure) =>
    expect(workOut(figure)).toBeCloseTo(figure.value!, 6),
  );

  it('a host with nothing for guests is empty while it has none, and full with one', () => {
    const small = smallWorld();
    const mouse = small.host('mouse', 2);
    const taken = () => headroom(small.fleet, mouse).memoryUsed.value;
    expect(capacity(small.fleet, mouse).memory.value).toBe(0);
    expect(taken()).toBe(0);
    small.make(small.found('old', 'mouse', 512, '192.0.2.9'));
    expect(taken()).toBe(100);
  });
  it('headroom goes on from capacity', () => {
    const used = room.memory.lines.filter(
      (line) => line.label.includes('guest') || line.label.includes('hold'),
    );
    const taken = used
      .filter((line) => line.operator === '−')
      .reduce((sum, line) => sum + line.value!, 0);
    expect(has.memory.value - taken).toBe(room.memory.value);
  });
  it('every figure names its sources', () => {
    for (const figure of [...figures, room.memory, room.vcpu])
      expect(figure.sources.length, figure.name).toBeGreaterThan(0);
  });
});

describe('printing', () => {
  it('unknown is never shown as 0', () => expect(printValue(null, 'MiB')).toBe('unknown'));
  it.each([
    [1536, 'MiB', '1.5 GiB'],
    [12, 'vCPU', '12 vCPU'],
    [7.94, 'percent', '7.9 %'],
    [0, 'percent', '0 %'],
    [0.04, 'percent', '0.040 %'],
    [0.001, 'percent', '0.0010 %'],
    [4.1e-9, 'percent', '< 0.001 %'],
    [0.05, 'percent', '0.1 %'],
    [-3.26, 'percent', '−3.3 %'],
    [1, 'days', '1 day'],
    [2, 'days', '2 days'],
    [1e9, 'bit/s', '1 Gbit/s'],
    [117_685_300, 'bytes/s', '117.7 MB/s'],
    [90, 'seconds', '2 min'],
  ] as const)('%d %s is %s', (value, unit, text) => expect(printValue(value, unit)).toBe(text));
  it('workings fit into one line of a log', () => {
    const world = smallWorld();
    expect(printWorkings(capacity(world.fleet, world.id('host', 'tern')).vcpu)).toBe(
      'Sockets 1; × Cores per socket 8 cores; × vCPU per core (policy) 4 vCPU; = vCPU for guests 32 vCPU',
    );
  });
});
