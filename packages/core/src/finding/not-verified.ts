import { practice } from '../figure/index.js';
import { lastVerification, managementAddresses } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** A host in service, with an address, that was never verified, or not since its network was altered. */
export const notVerified = hostRule('not-verified', (fleet, host) => {
  if (host.state !== 'in service' || managementAddresses(fleet, host.id).length === 0) return [];
  const last = lastVerification(fleet, host.id);
  if (last?.counts) return [];
  const failed = last?.tests.filter((test) => !test.passed) ?? [];
  const evidence = !last
    ? `${host.name} is in service and was never verified.`
    : failed.length
      ? `${failed.map((test) => test.test).join(', ')} failed when ${host.name} was last verified, on ${last.verification.at.slice(0, 10)}.`
      : `The network of ${host.name} was altered after it was last verified, on ${last.verification.at.slice(0, 10)}.`;
  return [
    {
      severity: failed.length ? ('caution' as const) : ('note' as const),
      evidence,
      consequence: 'Whether gateway, names and console really answer is not known.',
      remedy: 'Run the tests of the sheet and record what they gave.',
      source: practice('A host is verified after every change of its network'),
    },
  ];
});
