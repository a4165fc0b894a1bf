/**
 * Collects the patches of one change while it is being decided. Creating, updating and removing rows here alters
 * nothing; several updates of one row become one patch.
 */
import { canonicalTime } from '../quantity/index.js';
import type { Fleet } from './fleet.js';
import { KINDS, type Kind, type NewFields, type Row } from './kinds/index.js';
import { sameValue, type Patch, type Values } from './patch.js';

export class Draft {
  private readonly byRow = new Map<string, Patch>();

  constructor(
    private readonly fleet: Fleet,
    private readonly newId: () => string,
  ) {}

  /** Adds a row; fields left out take their initial value. Returns its id. */
  create<K extends Kind>(kind: K, fields: NewFields<K>, id = this.newId()): string {
    const given = inOneForm(kind, fields as Values);
    const after = Object.fromEntries(
      Object.entries(KINDS[kind].fields).map(([name, field]) => [
        name,
        given[name] === undefined ? field.initial : given[name],
      ]),
    );
    this.byRow.set(`${kind}|${id}`, { op: 'create', kind, id, after });
    return id;
  }

  /** Sets fields of a row; those that are equal already are left out. */
  update<K extends Kind>(kind: K, id: string, given: Partial<Row<K>>): void {
    const fields = inOneForm(kind, given as unknown as Values);
    const key = `${kind}|${id}`;
    const earlier = this.byRow.get(key);
    if (earlier?.op === 'create') {
      this.byRow.set(key, { ...earlier, after: { ...earlier.after, ...fields } });
      return;
    }
    const row = this.fleet.need(kind, id) as unknown as Values & { revision: number };
    const wanted: Values = { ...(earlier?.op === 'update' ? earlier.after : {}), ...fields };
    const changed = Object.entries(wanted).filter(
      ([name, value]) => value !== undefined && !sameValue(row[name], value),
    );
    this.byRow.set(key, {
      op: 'update',
      kind,
      id,
      seen: row.revision,
      before: Object.fromEntries(changed.map(([name]) => [name, row[name]])),
      after: Object.fromEntries(changed),
    });
  }

  remove(kind: Kind, id: string): void {
    const row = this.fleet.need(kind, id) as unknown as Values & { revision: number };
    const before = Object.fromEntries(
      Object.keys(KINDS[kind].fields).map((name) => [name, row[name]]),
    );
    this.byRow.set(`${kind}|${id}`, { op: 'delete', kind, id, seen: row.revision, before });
  }

  /** A patch of an earlier change turned round. */
  add(patch: Patch): void {
    this.byRow.set(`${patch.kind}|${patch.id}`, patch);
  }

  /** The patches, without updates that alter nothing, and with every owner's revision following its parts. */
  patches(): Patch[] {
    const real = [...this.byRow.values()].filter(
      (patch) => patch.op !== 'update' || Object.keys(patch.after).length > 0,
    );
    const written = new Map(real.map((patch) => [`${patch.kind}|${patch.id}`, patch]));
    for (const patch of real) for (const owner of this.owners(patch)) this.follow(owner, written);
    return [...written.values()];
  }

  private follow(owner: { kind: Kind; id: string }, written: Map<string, Patch>): void {
    const key = `${owner.kind}|${owner.id}`;
    const row = this.fleet.get(owner.kind, owner.id);
    if (written.has(key) || !row) return;
    const patch: Patch = {
      op: 'update',
      kind: owner.kind,
      id: owner.id,
      seen: row.revision,
      before: {},
      after: {},
    };
    written.set(key, patch);
    for (const next of this.owners(patch)) this.follow(next, written);
  }

  private owners(patch: Patch): { kind: Kind; id: string }[] {
    const row = this.fleet.get(patch.kind, patch.id) as Values | undefined;
    return [row, patch.op === 'delete' ? undefined : patch.after].flatMap((values) =>
      values ? ownerOf(patch.kind, values) : [],
    );
  }
}

/** Times as the record keeps them; what is none is left for the invariants to refuse. */
function inOneForm(kind: Kind, values: Values): Values {
  const times = Object.entries(values).filter(
    ([name, value]) => typeof value === 'string' && KINDS[kind].fields[name]?.type === 'time',
  ) as [string, string][];
  if (times.length === 0) return values;
  return {
    ...values,
    ...Object.fromEntries(times.map(([name, value]) => [name, canonicalTime(value) ?? value])),
  };
}

/** The record a row is part of: a volume's guest, a range's subnet, a management address's host. */
function ownerOf(kind: Kind, values: Values): { kind: Kind; id: string }[] {
  if (kind === 'address' && typeof values.hostId === 'string')
    return [{ kind: 'host', id: values.hostId }];
  const field = KINDS[kind].owner;
  const id = field ? values[field] : undefined;
  return field && typeof id === 'string'
    ? [{ kind: KINDS[kind].fields[field]!.to as Kind, id }]
    : [];
}
