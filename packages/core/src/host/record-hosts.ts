import {
  partOfImport,
  partWords,
  change,
  draftOf,
  isRefusal,
  list,
  refuse,
  type DeciderOf,
  type Refusal,
} from '../record/index.js';
import { counted } from '../quantity/index.js';
import { draftHost } from './draft-host.js';
import { hostInput } from './host-input.js';

/** Most hosts in one change. */
const MOST_HOSTS = 500;

/** Many hosts at once, all or none: from a table, or several alike. A refusal names the row as `hosts.<n>`. */
export const recordHosts = change({
  type: 'host.record-many',
  title: 'Record several hosts',
  input: { hosts: list(hostInput, MOST_HOSTS), ...partOfImport },
});

export const decideRecordHosts: DeciderOf<typeof recordHosts> = (
  fleet,
  { hosts, part },
  context,
) => {
  if (hosts.length === 0)
    return refuse({ code: 'none', field: 'hosts', sentence: 'There is no host to record here.' });
  if (hosts.length > MOST_HOSTS)
    return refuse({
      code: 'too-many',
      field: 'hosts',
      sentence: `At most ${MOST_HOSTS} hosts at once, not ${hosts.length}.`,
    });
  const draft = draftOf(fleet, context);
  const taken = new Set<string>();
  const names = new Map<string, number>();
  const objections: Refusal[] = [];
  const subjects = [];
  for (const [i, input] of hosts.entries()) {
    const at = <T extends Refusal>(refusal: T): T => ({
      ...refusal,
      field: `hosts.${i}${refusal.field ? `.${refusal.field}` : ''}`,
    });
    const drafted = draftHost(fleet, draft, context, input, taken);
    if (isRefusal(drafted)) return at(drafted);
    const twin = names.get(drafted.name.toLowerCase());
    if (twin !== undefined)
      return refuse({
        code: 'name-taken',
        field: `hosts.${i}.name`,
        sentence: `${drafted.name} stands in row ${twin + 1} and row ${i + 1}.`,
      });
    names.set(drafted.name.toLowerCase(), i);
    objections.push(...drafted.objections.map(at));
    subjects.push({ kind: 'host' as const, id: drafted.hostId, name: drafted.name });
  }
  return {
    draft,
    title:
      `recorded ${counted(subjects.length, 'host')}${partWords(part)}: ${subjects.map(({ name }) => name).join(', ')}`.slice(
        0,
        200,
      ),
    subjects: subjects.slice(0, 50),
    objections,
  };
};
