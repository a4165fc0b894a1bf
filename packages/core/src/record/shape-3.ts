/** Shape 3 of the log: how machines find their way, what is plugged in where, how addresses are given out. Older patches are read with these values. */
import { gaining } from './gaining.js';

const ROUTING = { gateway6: null, noGateway: false, gatewayOnLink: false, forwards: false };

export const toShape3 = gaining({
  site: { macBlock: '' },
  network: { untrusted: false },
  subnet: { domain: '', policy: 'lowest', quarantineDays: 0 },
  host: ROUTING,
  virtualSwitch: { untagged: false, bundle: 'none' },
  port: { switchPortId: null, up: true },
  guest: { domain: '', gateway: null, ...ROUTING },
  adapter: { connected: true, masquerade: false },
  address: { devicePortId: null, virtualSwitchId: null },
});
