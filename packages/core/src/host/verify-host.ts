import {
  change,
  draftOf,
  fieldsOf,
  list,
  noSuch,
  omittable,
  ref,
  refuse,
  time,
  without,
  beginning,
  type ChangeContext,
  type DeciderOf,
  type Draft,
  type InputOf,
  type Refusal,
} from '../record/index.js';

const verificationTest = fieldsOf('verificationTest');
export const testResults = list(
  beginning(verificationTest, ...without(verificationTest, 'verificationId')),
  64,
);
type TestResults = InputOf<{ tests: typeof testResults }>['tests'];

/** A run of named tests at a host. */
export const verifyHost = change({
  type: 'host.verify',
  title: 'Record a verification',
  carried: 'by hand',
  input: {
    hostId: ref('host'),
    /** When it was done; now if left out. */
    at: omittable(time()),
    tests: testResults,
    remark: omittable(fieldsOf('verification').remark),
  },
});

export const decideVerifyHost: DeciderOf<typeof verifyHost> = (fleet, input, context) => {
  const host = fleet.get('host', input.hostId);
  if (!host) return noSuch('host');
  if (input.tests.length === 0)
    return refuse({
      code: 'no-tests',
      field: 'tests',
      sentence: 'Say of at least one test whether it passed.',
    });
  const twice = testTwice(input.tests);
  if (twice) return twice;
  const draft = draftOf(fleet, context);
  draftVerification(draft, context, host.id, input);
  const failed = input.tests.filter((test) => !test.passed);
  const how = failed.length
    ? `${failed.length} of ${input.tests.length} tests failed: ${failed.map(({ test }) => test).join(', ')}`
    : `all ${input.tests.length} tests passed`;
  return {
    draft,
    title: `verified ${host.name}: ${how}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};

/** Of one run every test has one result. */
function testTwice(tests: TestResults): Refusal | undefined {
  const names = tests.map(({ test }) => test.trim());
  const again = names.findIndex((name, i) => names.indexOf(name) !== i);
  if (again < 0) return undefined;
  return refuse({
    code: 'test-twice',
    field: `tests.${again}.test`,
    sentence: `The test ${names[again]} is said twice in one run.`,
    remedy: 'Give the second another name, or record another run.',
  });
}

export function draftVerification(
  draft: Draft,
  context: ChangeContext,
  hostId: string,
  run: { at?: string; tests: TestResults; remark?: string },
): void {
  const verificationId = draft.create('verification', {
    hostId,
    at: run.at ?? context.now,
    by: context.actor.name,
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
