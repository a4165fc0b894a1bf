/**
 * The record in memory: every row, found by id, by what refers to it, by name, MAC and address. Rows are never altered
 * in place; `apply` puts new ones where patches say so and keeps the indexes. Nothing ever clones a Fleet: to ask what
 * would be, `supposing` applies patches, asks, and puts everything back.
 */
import { IndexMap } from './index-map.js';
import { KIND_NAMES, REFERENCES, type Kind, type Row } from './kinds/index.js';
import type { Patch } from './patch.js';
import { Table } from './table.js';

type AnyRow = Readonly<Record<string, unknown>> & {
  readonly id: string;
  readonly revision: number;
};
/** Kinds whose names people give machines. */
export type NamedKind = 'host' | 'guest' | 'device';
export type MacKind = 'adapter' | 'port' | 'devicePort';
type Undone = { kind: Kind; id: string; row: AnyRow | undefined };

/** Kinds whose values are read in the figures of what refers to them: a platform's coefficients, a group's policy, a network's name. */
const READ_BY: Partial<Record<Kind, string>> = {
  platform: 'host.platformId',
  network: 'subnet.networkId',
  hostGroup: 'host.groupId',
};

export class Fleet {
  /** Number of the last change that is in this fleet. */
  revision = 0;
  private readonly tables = new Map<Kind, Table<AnyRow>>(
    KIND_NAMES.map((kind) => [kind, new Table<AnyRow>()]),
  );
  private readonly references = new Map<string, IndexMap>();
  private readonly names = new IndexMap();
  private readonly macs = new IndexMap();
  private readonly ips = new IndexMap();
  private readonly memos = new Map<string, Map<string, unknown>>();
  private wholes = new Map<string, unknown>();
  /** What was kept of records before the supposition that goes on touched them. */
  private setAside: Map<string, Map<string, unknown> | undefined> | undefined;

  constructor() {
    for (const kind of KIND_NAMES)
      for (const { field } of REFERENCES[kind])
        this.references.set(`${kind}.${field}`, new IndexMap());
  }

  get<K extends Kind>(kind: K, id: string | null | undefined): Row<K> | undefined {
    return id ? (this.tables.get(kind)!.get(id) as Row<K> | undefined) : undefined;
  }

  /** @throws Error if there is no such row: for ids that the record itself vouches for */
  need<K extends Kind>(kind: K, id: string): Row<K> {
    const row = this.get(kind, id);
    if (!row) throw new Error(`no ${kind} ${id}`);
    return row;
  }

  /** In the order of their ids, which is that of their making. */
  all<K extends Kind>(kind: K): Iterable<Row<K>> {
    return this.tables.get(kind)!.values() as Iterable<Row<K>>;
  }

  count(kind: Kind): number {
    return this.tables.get(kind)!.size;
  }

  /** Rows of a kind whose field refers to that id, in the order of their ids. */
  referring<K extends Kind>(kind: K, field: keyof Row<K> & string, id: string): Row<K>[] {
    const table = this.tables.get(kind)!;
    const rows: Row<K>[] = [];
    for (const found of this.references.get(`${kind}.${field}`)!.get(id))
      rows.push(table.get(found) as Row<K>);
    return rows;
  }

  referringCount<K extends Kind>(kind: K, field: keyof Row<K> & string, id: string): number {
    return this.references.get(`${kind}.${field}`)!.count(id);
  }

  /** What refers to a row, by kind and field; empty if it can go. */
  referrers(kind: Kind, id: string): { kind: Kind; field: string; ids: string[] }[] {
    return KIND_NAMES.flatMap((from) =>
      REFERENCES[from]
        .filter(({ to }) => to === kind)
        .map(({ field }) => ({
          kind: from,
          field,
          ids: [...this.references.get(`${from}.${field}`)!.get(id)],
        }))
        .filter(({ ids }) => ids.length > 0),
    );
  }

  /** Hosts, guests and devices of that name, upper and lower case alike. */
  named(name: string): { kind: NamedKind; id: string }[] {
    return [...this.names.get(name.toLowerCase())].map((key) => splitKey<NamedKind>(key));
  }

  /** Adapters that carry a MAC. */
  withMac(mac: string): Row<'adapter'>[] {
    return this.macHolders(mac).flatMap(({ kind, id }) =>
      kind === 'adapter' ? [this.need('adapter', id)] : [],
    );
  }

  /** How many carry a MAC. */
  macCarriers = (mac: string): number => this.macs.count(mac);

  /** Whatever carries a MAC: adapters of guests, ports of hosts and of devices. */
  macHolders(mac: string): { kind: MacKind; id: string }[] {
    return [...this.macs.get(mac)].map((key) => splitKey<MacKind>(key));
  }

  /** Address rows of one address in one routing domain, canonical text. */
  withIp(domainId: string, ip: string): Row<'address'>[] {
    return [...this.ips.get(`${domainId}|${ip}`)].map((id) => this.need('address', id));
  }

  /**
   * A value computed from a record and kept until a patch touches the record or a row that refers to it. The computation
   * may only read what such patches announce.
   */
  memo<T>(id: string, name: string, compute: () => T): T {
    let kept = this.memos.get(id);
    if (!kept) this.memos.set(id, (kept = new Map()));
    if (!kept.has(name)) kept.set(name, compute());
    return kept.get(name) as T;
  }

  /** A value computed from the whole fleet, kept until any row alters, a supposed one included. */
  whole<T>(name: string, compute: () => T): T {
    if (!this.wholes.has(name)) this.wholes.set(name, compute());
    return this.wholes.get(name) as T;
  }

  /** Applies decided patches in order as that revision. @throws Error if a patch does not fit: the record would be wrong */
  apply(patches: readonly Patch[], revision: number): void {
    for (const patch of patches) this.applyOne(patch, revision);
    this.revision = revision;
  }

  /** Puts a row as read from storage. */
  load(kind: Kind, row: AnyRow): void {
    this.put(kind, row.id, row);
  }

  /**
   * Asks a question of the fleet as it would be with these patches; afterwards the fleet is as before, with all that it
   * had kept. What is kept of the supposed fleet is dropped.
   */
  supposing<T>(patches: readonly Patch[], ask: () => T): T {
    const undo: Undone[] = [];
    const { wholes, setAside } = this;
    const mine = new Map<string, Map<string, unknown> | undefined>();
    this.wholes = new Map();
    this.setAside = mine;
    try {
      for (const patch of patches) {
        undo.push({
          kind: patch.kind,
          id: patch.id,
          row: this.tables.get(patch.kind)!.get(patch.id),
        });
        this.applyOne(patch, this.revision);
      }
      return ask();
    } finally {
      this.setAside = undefined;
      for (const { kind, id, row } of undo.reverse()) this.put(kind, id, row);
      for (const [id, kept] of mine) if (kept) this.memos.set(id, kept);
      this.wholes = wholes;
      this.setAside = setAside;
    }
  }

  private applyOne(patch: Patch, revision: number): void {
    const held = this.tables.get(patch.kind)!.get(patch.id);
    if (patch.op === 'create') {
      if (held) throw new Error(`${patch.kind} ${patch.id} exists already`);
      this.put(patch.kind, patch.id, { ...patch.after, id: patch.id, revision });
      return;
    }
    if (!held) throw new Error(`${patch.kind} ${patch.id} does not exist`);
    this.put(
      patch.kind,
      patch.id,
      patch.op === 'delete' ? undefined : { ...held, ...patch.after, revision },
    );
  }

  private put(kind: Kind, id: string, row: AnyRow | undefined): void {
    const table = this.tables.get(kind)!;
    const held = table.get(id);
    if (held === row) return;
    if (row) table.set(row);
    else table.delete(id);
    this.file(kind, id, held, row);
    this.forget(kind, id, held, row);
    this.wholes.clear();
  }

  private file(
    kind: Kind,
    id: string,
    before: AnyRow | undefined,
    after: AnyRow | undefined,
  ): void {
    for (const { field } of REFERENCES[kind]) {
      const to = (row: AnyRow) => row[field] as string | null;
      refile(
        this.references.get(`${kind}.${field}`)!,
        id,
        before && to(before),
        after && to(after),
      );
    }
    if (kind === 'host' || kind === 'guest' || kind === 'device') {
      const name = (row: AnyRow) => String(row.name).toLowerCase();
      refile(this.names, `${kind}|${id}`, before && name(before), after && name(after));
    }
    if (kind === 'adapter' || kind === 'port' || kind === 'devicePort') {
      const mac = (row: AnyRow) => row.mac as string | null;
      refile(this.macs, `${kind}|${id}`, before && mac(before), after && mac(after));
    }
    if (kind === 'address') {
      const ip = (row: AnyRow) => `${String(row.domainId)}|${String(row.ip)}`;
      refile(this.ips, id, before && ip(before), after && ip(after));
    }
  }

  private forget(
    kind: Kind,
    id: string,
    before: AnyRow | undefined,
    after: AnyRow | undefined,
  ): void {
    this.drop(id);
    for (const { field } of REFERENCES[kind]) {
      if (before?.[field]) this.drop(before[field] as string);
      if (after?.[field]) this.drop(after[field] as string);
    }
    const dependent = READ_BY[kind];
    if (dependent) for (const reader of this.references.get(dependent)!.get(id)) this.drop(reader);
    // A pool tells what is there from what is only planned.
    if (kind === 'guest' && before?.state !== after?.state) {
      for (const volume of this.referring('volume', 'guestId', id)) this.drop(volume.poolId);
    }
  }

  private drop(id: string): void {
    if (this.setAside && !this.setAside.has(id)) this.setAside.set(id, this.memos.get(id));
    this.memos.delete(id);
  }
}

/** Files an id under another key; what stays under its key is not touched. */
function refile(
  index: IndexMap,
  id: string,
  before: string | null | undefined,
  after: string | null | undefined,
): void {
  if (before === after) return;
  if (before) index.remove(before, id);
  if (after) index.add(after, id);
}

function splitKey<K extends Kind>(key: string): { kind: K; id: string } {
  const at = key.indexOf('|');
  return { kind: key.slice(0, at) as K, id: key.slice(at + 1) };
}
