/**
 * What a link really carries, by a transfer over one whose rate the kernel holds (tc of iproute2) between two namespaces that
 * this test makes. The kernel is told to count whole Ethernet frames: 24 bytes of each are seen by no packet counter (preamble
 * and delimiter 8, check sequence 4, gap 12; IEEE Std 802.3).
 */
import { execFile, spawnSync } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { goodput } from '../src/index.js';

const HERE = `insel-tc-${process.pid}-a`;
const THERE = `insel-tc-${process.pid}-b`;
const RATE = 50e6;
const sh = (script: string) => spawnSync('sh', ['-ec', script], { encoding: 'utf8' });
const unlink = () => sh(`ip netns del ${HERE} 2>&1 || true; ip netns del ${THERE} 2>&1 || true`);

const link = (mtu: number) =>
  sh(`
    ip netns add ${HERE}; ip netns add ${THERE}
    ip -n ${HERE} link add name near type veth peer name far netns ${THERE}
    ip -n ${HERE} addr add 192.0.2.1/24 dev near; ip -n ${THERE} addr add 192.0.2.2/24 dev far
    ip -n ${HERE} link set near mtu ${mtu} up; ip -n ${THERE} link set far mtu ${mtu} up
    ip netns exec ${HERE} tc qdisc add dev near root tbf rate ${RATE} burst 20kb latency 50ms overhead 24
  `);

const RECEIVE = `
  require('net').createServer((socket) => {
    let [bytes, from] = [0, 0];
    socket.on('data', (data) => { if (from) bytes += data.length; else from = performance.now(); });
    socket.on('end', () => { console.log(bytes / (performance.now() - from) * 1000); process.exit(); });
  }).listen(5001, '192.0.2.2', () => require('child_process').execFile('ip',
    ['netns', 'exec', '${HERE}', process.execPath, '-e', process.env.SEND]));`;
const SEND = `require('net').connect(5001, '192.0.2.2').end(Buffer.alloc(8e6))`;

/** Bytes of payload per second, from the second block that arrives on. */
const transfer = () =>
  new Promise<number>((resolve, reject) => {
    execFile(
      'ip',
      ['netns', 'exec', THERE, process.execPath, '-e', RECEIVE],
      { env: { ...process.env, SEND }, timeout: 7_000 },
      (error, stdout) => (error ? reject(error) : resolve(Number(stdout))),
    );
  });

const made = process.getuid?.() === 0 && link(1500).status === 0;
unlink();
afterAll(unlink);

describe.runIf(made).each([1500, 9000])('a link with an MTU of %d', (mtu) => {
  beforeAll(() => {
    unlink();
    expect(link(mtu)).toMatchObject({ status: 0 });
  });
  it('carries what its frames leave for the payload', async () => {
    const wanted = goodput(RATE, { mtu });
    // A machine that is busy stalls now and then: one of a few tries must have it. 1500 and 9000 lie 5 % apart.
    const shares: number[] = [];
    const isNear = (share: number) => Math.abs(share - 1) < 0.02;
    while (shares.length < 20 && !shares.some(isNear))
      shares.push((await transfer().catch(() => 0)) / wanted);
    expect(shares.filter(isNear)).toHaveLength(1);
    // Nothing is ever carried faster, but for what lay in the queue at the first block.
    expect(Math.max(...shares)).toBeLessThan(1.03);
  }, 180_000);
});
