/** Shape 3 of the log: how machines find their way, what is plugged in where, how addresses are given out, what starts before what. Older patches are read with these values. */
import { gaining } from './gaining.js';

const ROUTING = { gateway6: null, noGateway: false, gatewayOnLink: false, forwards: false };

export const toShape3 = gaining({
  site: { macBlock: '' },
  network: { untrusted: false },
  subnet: { domain: '', policy: 'lowest', quarantineDays: 0 },
  host: { ...ROUTING, bootSeconds: 300 },
  pool: { serverGuestId: null },
  virtualSwitch: { untagged: false, bundle: 'none' },
  port: { switchPortId: null, up: true },
  guest: { domain: '', gateway: null, startSeconds: 60, ...ROUTING },
  adapter: { connected: true, masquerade: false },
  address: { devicePortId: null, virtualSwitchId: null },
});
