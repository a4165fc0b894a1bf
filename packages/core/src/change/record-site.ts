import { draftOf, refuse, type ChangeBase, type Decider } from '../record/index.js';

/** Records a site. */
export interface RecordSite extends ChangeBase {
  type: 'site.record';
  name: string;
}

export const recordSite: Decider<RecordSite> = (fleet, change, edge) => {
  const name = change.name.trim();
  for (const site of fleet.all('site')) {
    if (site.name.toLowerCase() === name.toLowerCase())
      return refuse({
        code: 'name-taken',
        field: 'name',
        sentence: `There is a site named ${site.name} already.`,
      });
  }
  const draft = draftOf(fleet, edge);
  const id = draft.create('site', { name });
  return { draft, title: `recorded site ${name}`, subjects: [{ kind: 'site', id, name }] };
};
