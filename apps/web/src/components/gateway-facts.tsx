/** By which gateways a machine sends, and that it has none on purpose. */
import type { At } from '../client/change.js';
import { Fact } from './sheet.js';
import { AddressEdit, YesNo } from './small-edits.js';

interface Gateways {
  gateway: string | null;
  noGateway: boolean;
  gateway6: string | null;
  gatewayOnLink: boolean;
}

export const GatewayFacts = ({ at, of }: { at: (field: keyof Gateways) => At; of: Gateways }) => (
  <>
    <Fact name="Gateway">
      <AddressEdit
        at={at('gateway')}
        name="Gateway"
        value={of.gateway}
        none={of.noGateway ? 'none, on purpose' : 'as its subnet says'}
      />
    </Fact>
    <Fact name="Has no gateway">
      <YesNo
        at={at('noGateway')}
        name="Has no gateway"
        value={of.noGateway}
        yes="on purpose"
        no="–"
      />
    </Fact>
    <Fact name="Gateway, IPv6">
      <AddressEdit
        at={at('gateway6')}
        name="Gateway, IPv6"
        value={of.gateway6}
        none="as its subnet says"
      />
    </Fact>
    <Fact name="Gateway on-link">
      <YesNo
        at={at('gatewayOnLink')}
        name="Gateway on-link"
        value={of.gatewayOnLink}
        yes="outside its subnet on purpose"
        no="–"
      />
    </Fact>
  </>
);
