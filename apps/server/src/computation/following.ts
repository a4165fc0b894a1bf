/** A fleet that was read by itself, kept at the last entry of the log that it has been told, whatever order it is told them in. */
import { upcast, type Fleet, type LogEntry } from '@insel/core';

export class Following {
  private held: Fleet | undefined;
  /** Heard of before the fleet was read, or before an entry that comes before. */
  private ahead: LogEntry[] = [];

  get fleet(): Fleet | undefined {
    return this.held;
  }

  /** It has been read, as of its revision. */
  begin(fleet: Fleet): void {
    this.held = fleet;
    this.hear([]);
  }

  hear(entries: readonly LogEntry[]): void {
    this.ahead.push(...entries);
    const { held } = this;
    if (!held) return;
    this.ahead.sort((a, b) => a.revision - b.revision);
    for (const entry of this.ahead)
      if (entry.revision === held.revision + 1) held.apply(upcast(entry), entry.revision);
    this.ahead = this.ahead.filter(({ revision }) => revision > held.revision);
  }
}
