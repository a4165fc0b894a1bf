/**
 * The rows of a record, read by id, by what refers to them, by name, MAC and address. Whatever is read is noted, where something
 * is computed that is kept.
 */
import { KIND_NAMES, REFERENCES, type Kind, type Row } from './kinds/index.js';
import type { Store } from './store.js';
import { type Tracks } from './tracking.js';
import { fieldToIndex, LOOK_UPS, NESTED, NO_GROUP, OWNER_FIELD } from './look-ups.js';

/** Kinds whose names people give machines. */
export type NamedKind = 'host' | 'guest' | 'device';
export type MacKind = 'adapter' | 'port' | 'devicePort';

/** Fields that refer to a kind, with the kinds that have them. */
const FIELDS_TO = new Map(
  KIND_NAMES.map((kind) => [
    kind,
    KIND_NAMES.flatMap((from) =>
      REFERENCES[from].flatMap(({ field, to }) => (to === kind ? [[from, field] as const] : [])),
    ),
  ]),
);

const KINDS_IN = Object.fromEntries(LOOK_UPS.map(({ name, kinds }) => [name, kinds]));

export class RowReader {
  constructor(
    protected readonly store: Store,
    protected readonly tracks: Tracks,
  ) {}

  get<K extends Kind>(kind: K, id: string | null | undefined): Row<K> | undefined {
    if (!id) return undefined;
    const row = this.store.rows(kind).get(id);
    if (this.tracks.noting) this.tracks.row(kind, this.store.rootOf(kind, id, row));
    return row as Row<K> | undefined;
  }

  /** @throws Error if there is no such row: for ids that the record itself vouches for */
  need<K extends Kind>(kind: K, id: string): Row<K> {
    const row = this.get(kind, id);
    if (!row) throw new Error(`no ${kind} ${id}`);
    return row;
  }

  /** Whether there is such a row, and nothing of it. */
  has(kind: Kind, id: string): boolean {
    const row = this.store.rows(kind).get(id);
    if (this.tracks.noting) this.tracks.field(kind, id, 'id', this.store.rootOf(kind, id, row));
    return row !== undefined;
  }

  /**
   * Some fields of a row: what is computed of them stands whatever else alters of it or its parts.
   * @throws Error if there is no such row
   */
  pick<K extends Kind, F extends keyof Row<K> & string>(
    kind: K,
    id: string,
    ...fields: readonly F[]
  ): Pick<Row<K>, F> {
    const row = this.store.rows(kind).get(id);
    if (!row) throw new Error(`no ${kind} ${id}`);
    if (this.tracks.noting) {
      const root = this.store.rootOf(kind, id, row);
      for (const field of fields) this.tracks.field(kind, id, field, root);
    }
    return row as unknown as Pick<Row<K>, F>;
  }

  /** In the order of their ids, which is that of their making. */
  all<K extends Kind>(kind: K): Iterable<Row<K>> {
    this.tracks.table(kind);
    return this.store.rows(kind).values() as Iterable<Row<K>>;
  }

  count(kind: Kind): number {
    this.tracks.size(kind);
    return this.store.rows(kind).size;
  }

  /** Rows of a kind whose field refers to that id, in the order of their ids. */
  referring<K extends Kind>(kind: K, field: keyof Row<K> & string, id: string): Row<K>[] {
    const table = this.store.rows(kind);
    const rows: Row<K>[] = [];
    for (const found of this.referringIds(kind, field, id)) rows.push(table.get(found) as Row<K>);
    return rows;
  }

  /** The same of parts: what is computed of them stands whatever else alters of whom they are a part. */
  partsOnly<K extends Kind>(kind: K, field: keyof Row<K> & string, id: string): Row<K>[] {
    const { index } = fieldToIndex(kind, field);
    this.tracks.look(index, id, [kind]);
    const table = this.store.rows(kind);
    return this.store
      .index(index)
      .get(id)
      .map((found) => table.get(found) as Row<K>);
  }

  /** Which rows refer to that id, and nothing of them: what is computed of it stands whatever else alters of them. */
  idsReferring<K extends Kind>(
    kind: K,
    field: keyof Row<K> & string,
    id: string,
  ): readonly string[] {
    const { index, ids } = fieldToIndex(kind, field);
    this.tracks.look(ids, id, [kind]);
    return this.store.index(index).get(id);
  }

  referringCount<K extends Kind>(kind: K, field: keyof Row<K> & string, id: string): number {
    const { index, owner, to } = fieldToIndex(kind, field);
    this.noteReferring(kind, id, index, owner, to);
    return this.store.index(index).count(id);
  }

  /** What refers to a row, by kind and field; empty if it can go. */
  referrers(kind: Kind, id: string): { kind: Kind; field: string; ids: string[] }[] {
    return FIELDS_TO.get(kind)!.flatMap(([from, field]) => {
      const ids = this.referringIds(from, field, id);
      return ids.length > 0 ? [{ kind: from, field, ids: [...ids] }] : [];
    });
  }

  /** Hosts, guests and devices of that name, upper and lower case alike. */
  named(name: string): { kind: NamedKind; id: string }[] {
    return this.found('names', name.toLowerCase()).map((key) => splitKey<NamedKind>(key));
  }

  /** Adapters that carry a MAC. */
  withMac(mac: string): Row<'adapter'>[] {
    return this.macHolders(mac).flatMap(({ kind, id }) =>
      kind === 'adapter' ? [this.need('adapter', id)] : [],
    );
  }

  /** How many carry a MAC. */
  macCarriers(mac: string): number {
    this.tracks.look('macs', mac, KINDS_IN.macs!);
    return this.store.index('macs').count(mac);
  }

  /** Whatever carries a MAC: adapters of guests, ports of hosts and of devices. */
  macHolders(mac: string): { kind: MacKind; id: string }[] {
    return this.found('macs', mac).map((key) => splitKey<MacKind>(key));
  }

  /** Address rows of one address in one routing domain, canonical text. */
  withIp(domainId: string, ip: string): Row<'address'>[] {
    return this.found('ips', `${domainId}|${ip}`).map((id) => this.need('address', id));
  }

  /** What is known of guests by that value: a machine identifier, a key, the name it calls itself. */
  withFact(what: Row<'identityFact'>['what'], value: string): Row<'identityFact'>[] {
    return this.found('facts', `${what}|${value}`).map((id) => this.need('identityFact', id));
  }

  /** Hosts in service that back each other; those of no group back each other, too. */
  backing(groupId: string | null): readonly string[] {
    return this.found('backing', groupId ?? NO_GROUP);
  }

  /** Hosts that run in a guest. */
  nested(): readonly string[] {
    return this.found('nested', NESTED);
  }

  /** Whether anything needs a guest to come up: another machine, a service that it provides, a pool that it serves, its host. */
  isNeeded(guestId: string): boolean {
    return this.found('needed', guestId).length > 0;
  }

  /** What was accepted of a finding; there is one at most. */
  acceptanceOf(findingId: string): Row<'acceptance'> | undefined {
    return this.get('acceptance', this.found('acceptances', findingId)[0]);
  }

  private referringIds(kind: Kind, field: string, id: string): readonly string[] {
    const { index, owner, to } = fieldToIndex(kind, field);
    this.noteReferring(kind, id, index, owner, to);
    return this.store.index(index).get(id);
  }

  private noteReferring(kind: Kind, id: string, index: string, owner: boolean, to: Kind): void {
    if (!this.tracks.noting) return;
    if (owner) this.tracks.row(kind, OWNER_FIELD[to] ? this.store.rootOf(to, id) : id);
    else this.tracks.look(index, id, [kind]);
  }

  private found(name: (typeof LOOK_UPS)[number]['name'], key: string): readonly string[] {
    this.tracks.look(name, key, KINDS_IN[name]!);
    return this.store.index(name).get(key);
  }
}

function splitKey<K extends Kind>(key: string): { kind: K; id: string } {
  const at = key.indexOf('|');
  return { kind: key.slice(0, at) as K, id: key.slice(at + 1) };
}
