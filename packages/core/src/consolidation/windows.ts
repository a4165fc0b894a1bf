/**
 * How many windows a programme of moves takes: a pilot first, then more at a time; what is critical alone of its kind. Every
 * number is common practice, no source.
 */
export interface Timed {
  id: string;
  /** The long end of its estimate, in minutes. */
  minutes: number;
  /** Only one of these in a window. */
  critical: boolean;
}

export interface Wave {
  ids: string[];
  minutes: number;
}

export interface Waves {
  windows: Wave[];
  /** No way of dealing them out takes fewer. */
  fewest: number;
  /** Longer than may be planned into one window. */
  tooLong: string[];
  /** Minutes that are planned into a window at most. */
  most: number;
}

/** Share of a window that is planned on routes without past runs. */
const PLANNED_PERCENT = 60;
/** Stopped moves that a person does in a night. */
const A_NIGHT = 6;
/** Moves in the first window, and in the second. */
const PILOT = 2;
const SECOND = 5;

const roomIn = (window: number): number => Math.min(A_NIGHT, [PILOT, SECOND][window] ?? A_NIGHT);

/**
 * Small and ordinary ones first, so that the pilot risks little. Costs moves · windows.
 * @param begun windows of the programme before these
 */
export function wavesOf(moves: readonly Timed[], windowMinutes: number, begun = 0): Waves {
  const most = Math.floor((windowMinutes * PLANNED_PERCENT) / 100);
  const fitting = moves
    .filter(({ minutes }) => minutes <= most)
    .sort((a, b) => Number(a.critical) - Number(b.critical) || a.minutes - b.minutes);
  const windows: { ids: string[]; minutes: number; critical: boolean }[] = [];
  for (const { id, minutes, critical } of fitting) {
    let at = windows.findIndex(
      (window, i) =>
        window.ids.length < roomIn(begun + i) &&
        window.minutes + minutes <= most &&
        !(critical && window.critical),
    );
    if (at < 0) at = windows.push({ ids: [], minutes: 0, critical: false }) - 1;
    const window = windows[at]!;
    window.ids.push(id);
    window.minutes += minutes;
    window.critical ||= critical;
  }
  return {
    windows: windows.map(({ ids, minutes }) => ({ ids, minutes })),
    fewest: fewestWindows(fitting, most, begun),
    tooLong: moves.filter(({ minutes }) => minutes > most).map(({ id }) => id),
    most,
  };
}

/** The largest of three bounds: minutes in all, critical ones, and how many moves the first windows take. */
function fewestWindows(moves: readonly Timed[], most: number, begun: number): number {
  const minutes = moves.reduce((sum, move) => sum + move.minutes, 0);
  let [byCount, left] = [0, moves.length];
  while (left > 0) left -= roomIn(begun + byCount++);
  return Math.max(
    most > 0 ? Math.ceil(minutes / most) : 0,
    moves.filter(({ critical }) => critical).length,
    byCount,
  );
}
