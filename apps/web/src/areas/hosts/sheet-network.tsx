/** Networks a host carries, one line each. */
import type { HostSheet } from '@insel/contract';
import { Part } from '../../components/sheet.js';
import { CarryNetwork, InsideNetwork } from './inside-network.js';
import { Cables, CarriedLine } from './sheet-carried.js';

export function NetworksPart({ sheet }: { sheet: HostSheet }) {
  return (
    <Part title="Networks carried">
      {sheet.networks.map((found) => (
        <CarriedLine key={found.id} found={found} sheet={sheet} />
      ))}
      {sheet.ports.length > 0 && <Cables sheet={sheet} />}
      <InsideNetwork sheet={sheet} />
      <CarryNetwork
        hostId={sheet.host.id}
        carried={sheet.networks.flatMap((found) => (found.network ? [found.network.id] : []))}
      />
    </Part>
  );
}
