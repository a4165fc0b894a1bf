/**
 * Packing guests into what hosts have left: memory and vCPU at once, each guest whole and on one of its own candidates.
 * First a best fit of the largest first; where that leaves one over, a search of all placements until a budget of steps is
 * spent. The answer is a placement, the proof that there is none, or "not settled" — never an average: a fit of the sums
 * is not a fit of the guests (Caprara and Toth, Discrete Applied Mathematics 111(3), 2001).
 */
export interface Piece {
  id: string;
  vcpu: number;
  /** MiB with overhead, by host, since the overhead is the platform's. */
  memoryOn: (hostId: string) => number;
  candidates: readonly string[];
}

export interface Room {
  id: string;
  vcpu: number;
  memoryMiB: number;
}

export type Packing =
  | { answer: 'fits'; placement: Map<string, string> }
  /** The placement of as many as a best fit puts, for the picture. */
  | { answer: 'does not fit' | 'not settled'; placement: Map<string, string>; left: string[] };

/** Steps of the search before it gives up: about a tenth of a second. */
export const PACK_BUDGET = 200_000;

const anywhere = () => false;

/** @param against whether a rule keeps a piece from a host, given the placement so far */
export function pack(
  pieces: readonly Piece[],
  rooms: readonly Room[],
  against: (
    pieceId: string,
    hostId: string,
    placed: ReadonlyMap<string, string>,
  ) => boolean = anywhere,
  budget = PACK_BUDGET,
): Packing {
  const first = bestFit(pieces, rooms, against);
  if (first.left.length === 0) return { answer: 'fits', placement: first.placement };
  if (sumsFail(pieces, rooms)) return { answer: 'does not fit', ...first };
  const search = new Search(pieces, rooms, against, budget, against !== anywhere);
  if (search.place(0)) return { answer: 'fits', placement: search.placement };
  return { answer: search.steps >= budget ? 'not settled' : 'does not fit', ...first };
}

const size = (piece: Piece): number =>
  Math.max(...piece.candidates.map((id) => piece.memoryOn(id)), 0);

function bestFit(
  pieces: readonly Piece[],
  rooms: readonly Room[],
  against: Search['against'],
): { placement: Map<string, string>; left: string[] } {
  const free = new Map(rooms.map((room) => [room.id, { ...room }]));
  const placement = new Map<string, string>();
  const left: string[] = [];
  for (const piece of [...pieces].sort(
    (a, b) => size(b) - size(a) || b.vcpu - a.vcpu || (a.id < b.id ? -1 : 1),
  )) {
    let best: { id: string; slack: number } | undefined;
    for (const id of piece.candidates) {
      const room = free.get(id);
      if (
        !room ||
        room.vcpu < piece.vcpu ||
        room.memoryMiB < piece.memoryOn(id) ||
        against(piece.id, id, placement)
      )
        continue;
      const slack = room.memoryMiB - piece.memoryOn(id);
      if (!best || slack < best.slack) best = { id, slack };
    }
    if (!best) {
      left.push(piece.id);
      continue;
    }
    const room = free.get(best.id)!;
    room.vcpu -= piece.vcpu;
    room.memoryMiB -= piece.memoryOn(best.id);
    placement.set(piece.id, best.id);
  }
  return { placement, left };
}

/** Quick proofs that nothing can fit: a piece larger than every candidate; a sum larger than all candidates together; fewer places than pieces. */
function sumsFail(pieces: readonly Piece[], rooms: readonly Room[]): boolean {
  const byId = new Map(rooms.map((room) => [room.id, room]));
  if (
    pieces.some(
      (piece) =>
        !piece.candidates.some(
          (id) =>
            (byId.get(id)?.vcpu ?? -1) >= piece.vcpu &&
            byId.get(id)!.memoryMiB >= piece.memoryOn(id),
        ),
    )
  )
    return true;
  const used = rooms.filter((room) => pieces.some((piece) => piece.candidates.includes(room.id)));
  const need = (of: (piece: Piece) => number) => pieces.reduce((sum, piece) => sum + of(piece), 0);
  const have = (of: (room: Room) => number) =>
    used.reduce((sum, room) => sum + Math.max(0, of(room)), 0);
  if (
    need((piece) => piece.vcpu) > have((room) => room.vcpu) ||
    need((piece) => Math.min(...piece.candidates.map(piece.memoryOn))) >
      have((room) => room.memoryMiB)
  )
    return true;
  return (
    used.reduce(
      (places, room) =>
        places +
        mostOn(
          room,
          pieces.filter((piece) => piece.candidates.includes(room.id)),
        ),
      0,
    ) < pieces.length
  );
}

/** No host holds more pieces than it could of the smallest ones (a counting bound after Martello and Toth). */
function mostOn(room: Room, pieces: readonly Piece[]): number {
  const fitting = (sizes: number[], total: number) => {
    let [count, sum] = [0, 0];
    for (const piece of sizes.sort((a, b) => a - b)) {
      if ((sum += piece) > total) break;
      count += 1;
    }
    return count;
  };
  return Math.min(
    fitting(
      pieces.map((piece) => piece.memoryOn(room.id)),
      room.memoryMiB,
    ),
    fitting(
      pieces.map((piece) => piece.vcpu),
      room.vcpu,
    ),
  );
}

class Search {
  steps = 0;
  readonly placement = new Map<string, string>();
  private readonly order: Piece[];
  private readonly free: Map<string, Room>;
  /** Whether hosts of equal room can stand for each other: everybody may go everywhere and is as large there, and no rule tells them apart. */
  private readonly alike: boolean;

  constructor(
    pieces: readonly Piece[],
    rooms: readonly Room[],
    readonly against: (
      pieceId: string,
      hostId: string,
      placed: ReadonlyMap<string, string>,
    ) => boolean,
    private readonly budget: number,
    ruled: boolean,
  ) {
    // The hardest first: fewest candidates, then largest.
    this.order = [...pieces].sort(
      (a, b) => a.candidates.length - b.candidates.length || size(b) - size(a) || b.vcpu - a.vcpu,
    );
    this.free = new Map(rooms.map((room) => [room.id, { ...room }]));
    this.alike =
      !ruled &&
      pieces.every(
        (piece) =>
          piece.candidates.length === rooms.length &&
          new Set(piece.candidates.map(piece.memoryOn)).size === 1,
      );
  }

  place(at: number): boolean {
    const piece = this.order[at];
    if (!piece) return true;
    const tried = new Set<string>();
    for (const id of piece.candidates) {
      if ((this.steps += 1) >= this.budget) return false;
      const room = this.free.get(id);
      const memory = piece.memoryOn(id);
      if (
        !room ||
        room.vcpu < piece.vcpu ||
        room.memoryMiB < memory ||
        this.against(piece.id, id, this.placement)
      )
        continue;
      // A host that looks like one that failed already fails as well; with rules no two hosts are alike.
      const look = this.alike ? `${room.vcpu}|${room.memoryMiB}` : id;
      if (tried.has(look)) continue;
      tried.add(look);
      room.vcpu -= piece.vcpu;
      room.memoryMiB -= memory;
      this.placement.set(piece.id, id);
      if (this.place(at + 1)) return true;
      room.vcpu += piece.vcpu;
      room.memoryMiB += memory;
      this.placement.delete(piece.id);
    }
    return false;
  }
}
