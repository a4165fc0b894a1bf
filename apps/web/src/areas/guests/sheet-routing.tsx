/** What a guest forwards, and how it answers. */
import type { GuestSheet } from '@insel/contract';
import { ForwardedPorts } from '../../components/forwarded-ports.js';
import { GatewayFacts } from '../../components/gateway-facts.js';
import { Habits } from '../../components/habits.js';
import { Routes } from '../../components/routes.js';
import { Part, Facts, Fact } from '../../components/sheet.js';
import { TextEdit, YesNo } from '../../components/small-edits.js';
import { editing } from '../../client/change.js';

export function RoutingPart({
  sheet: { guest, fullName, routes, forwardedPorts },
}: {
  sheet: GuestSheet;
}) {
  const at = editing('guest.edit', guest);
  return (
    <Part title="Routing">
      <Facts>
        <Fact name="Full name">
          <span className="mono">{fullName}</span>
        </Fact>
        <Fact name="Domain">
          <TextEdit at={at('domain')} name="Domain" value={guest.domain} mono />
        </Fact>
        <GatewayFacts at={at} of={guest} />
        <Fact name="Forwards">
          <YesNo
            at={at('forwards')}
            name="Forwards"
            value={guest.forwards}
            yes="yes, it is a router"
          />
        </Fact>
        <Habits at={at} of={guest} />
      </Facts>
      <Routes routes={routes} holder={{ guestId: guest.id }} name={guest.name} />
      <ForwardedPorts ports={forwardedPorts} holder={{ guestId: guest.id }} name={guest.name} />
    </Part>
  );
}
