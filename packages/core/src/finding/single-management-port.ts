import { practice } from '../figure/index.js';
import { managementPorts } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** Management hangs on one port, or on two ports of one card. */
export const singleManagementPort = hostRule('single-management-port', (fleet, host) => {
  const ports = managementPorts(fleet, host.id);
  const source = practice('Two ports for management, on different cards');
  if (ports.length === 1) {
    return [
      {
        severity: 'note' as const,
        evidence: `${host.name} carries management over one port, ${ports[0]!.name}.`,
        consequence:
          'One cable decides whether the host can be reached; clustering will warn about it later.',
        remedy: 'Plug in a second port on another card and let management use both.',
        source,
      },
    ];
  }
  const [card] = new Set(ports.map((port) => port.card));
  if (ports.length < 2 || !card || ports.some((port) => port.card !== card)) return [];
  return [
    {
      at: 'one card',
      severity: 'note' as const,
      evidence: `Both management ports of ${host.name}, ${ports.map((port) => port.name).join(' and ')}, sit on one card (${card}).`,
      consequence: 'When the card dies, both ports die with it.',
      remedy: 'Use one port of another card.',
      source,
    },
  ];
});
