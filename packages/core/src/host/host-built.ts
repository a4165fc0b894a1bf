import { canonicalTime } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  objection,
  omittable,
  ref,
  refuse,
  type DeciderOf,
} from '../record/index.js';
import { draftVerification, testResults } from './verify-host.js';

const build = fieldsOf('hostBuild');

/** A host was built from its sheet: how long it took, what was different, what was tested. It is in service then. */
export const hostBuilt = change({
  type: 'host.built',
  title: 'Record that the host was built',
  carried: 'by hand',
  undoable: false,
  alters: ['hostId'],
  input: {
    hostId: ref('host'),
    startedAt: build.startedAt,
    endedAt: build.endedAt,
    differences: omittable(build.differences),
    tests: testResults,
  },
});

export const decideHostBuilt: DeciderOf<typeof hostBuilt> = (fleet, input, context) => {
  const host = fleet.get('host', input.hostId);
  if (!host) return noSuch('host');
  if (host.state !== 'planned' && host.state !== 'building') {
    return refuse({
      code: 'state-cannot-follow',
      sentence: `${host.name} is ${host.state}: only a planned host, or one being built, is put into service by its sheet.`,
    });
  }
  const startedAt = canonicalTime(input.startedAt) ?? input.startedAt;
  const endedAt = canonicalTime(input.endedAt) ?? input.endedAt;
  if (endedAt < startedAt)
    return refuse({
      code: 'ends-before-it-begins',
      field: 'endedAt',
      sentence: 'The build cannot end before it began.',
    });
  const failed = input.tests.filter((test) => !test.passed);
  const objections = failed.length
    ? [
        objection({
          code: 'tests-failed',
          field: 'tests',
          sentence: `${failed.map(({ test }) => test).join(', ')} did not pass.`,
          remedy: 'Mend it first, or write why the host goes into service all the same.',
        }),
      ]
    : [];
  const draft = draftOf(fleet, context);
  draft.create('hostBuild', {
    hostId: host.id,
    startedAt,
    endedAt,
    differences: input.differences?.trim() ?? '',
  });
  if (input.tests.length > 0)
    draftVerification(draft, context, host.id, { at: endedAt, tests: input.tests });
  draft.update('host', host.id, { state: 'in service' });
  const minutes = Math.round((Date.parse(endedAt) - Date.parse(startedAt)) / 60_000);
  return {
    draft,
    title: `built ${host.name} in ${minutes} min`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
    objections,
  };
};
