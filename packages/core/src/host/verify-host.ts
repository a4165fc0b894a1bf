import {
  draftOf,
  noSuch,
  object,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Edge,
} from '../record/index.js';

export interface TestResult {
  test: string;
  passed: boolean;
  remark?: string;
}

/** Records a run of named tests at a host. */
export interface VerifyHost extends ChangeBase {
  type: 'host.verify';
  hostId: string;
  /** When it was done, UTC; now if left out. */
  at?: string;
  tests: TestResult[];
  remark?: string;
}

export const verifyHost: Decider<VerifyHost> = (fleet, change, edge) => {
  const host = fleet.get('host', change.hostId);
  if (!host) return noSuch('host');
  if (change.tests.length === 0)
    return refuse({
      code: 'no-tests',
      field: 'tests',
      sentence: 'Say of at least one test whether it passed.',
    });
  const draft = draftOf(fleet, edge);
  draftVerification(draft, edge, host.id, change);
  const failed = change.tests.filter((test) => !test.passed);
  const how = failed.length
    ? `${failed.length} of ${change.tests.length} tests failed: ${failed.map(({ test }) => test).join(', ')}`
    : `all ${change.tests.length} tests passed`;
  return {
    draft,
    title: `verified ${host.name}: ${how}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};

export function draftVerification(
  draft: Draft,
  edge: Edge,
  hostId: string,
  run: Pick<VerifyHost, 'at' | 'tests' | 'remark'>,
): void {
  const verificationId = draft.create('verification', {
    hostId,
    at: run.at ? new Date(run.at).toISOString() : edge.now,
    by: edge.actor.name,
    remark: run.remark ?? '',
  });
  for (const { test, passed, remark } of run.tests)
    draft.create('verificationTest', {
      verificationId,
      test: test.trim(),
      passed,
      remark: remark ?? '',
    });
}

/** Records that a host was built from its sheet: how long it took, what was different, what was tested. It is in service then. */
export interface HostBuilt extends ChangeBase {
  type: 'host.built';
  hostId: string;
  startedAt: string;
  endedAt: string;
  differences?: string;
  tests: TestResult[];
}

export const hostBuilt: Decider<HostBuilt> = (fleet, change, edge) => {
  const host = fleet.get('host', change.hostId);
  if (!host) return noSuch('host');
  if (host.state !== 'planned' && host.state !== 'building') {
    return refuse({
      code: 'state-cannot-follow',
      sentence: `${host.name} is ${host.state}: only a planned host, or one being built, is put into service by its sheet.`,
    });
  }
  const [startedAt, endedAt] = [
    new Date(change.startedAt).toISOString(),
    new Date(change.endedAt).toISOString(),
  ];
  if (endedAt < startedAt)
    return refuse({
      code: 'ends-before-it-begins',
      field: 'endedAt',
      sentence: 'The build cannot end before it began.',
    });
  const failed = change.tests.filter((test) => !test.passed);
  const objections = failed.length
    ? [
        object({
          code: 'tests-failed',
          field: 'tests',
          sentence: `${failed.map(({ test }) => test).join(', ')} did not pass.`,
          remedy: 'Mend it first, or write why the host goes into service all the same.',
        }),
      ]
    : [];
  const draft = draftOf(fleet, edge);
  draft.create('hostBuild', {
    hostId: host.id,
    startedAt,
    endedAt,
    differences: change.differences?.trim() ?? '',
  });
  if (change.tests.length > 0)
    draftVerification(draft, edge, host.id, { at: endedAt, tests: change.tests });
  draft.update('host', host.id, { state: 'in service' });
  const minutes = Math.round((Date.parse(endedAt) - Date.parse(startedAt)) / 60_000);
  return {
    draft,
    title: `built ${host.name} in ${minutes} min`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
    objections,
  };
};
