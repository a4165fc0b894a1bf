/** When a migration is: its window, and the time that it must be decided by. */
import type { MigrationSheet } from '@insel/contract';
import { canonicalTime } from '@insel/core';
import { Editable } from '../../components/editable.js';
import { editing } from '../../client/change.js';
import { Figure } from '../../components/workings.js';
import { minuteOf } from '../../components/minute.js';

/** A minute in UTC, or none. */
export function WindowEdit({
  migration,
  field,
  name,
}: {
  migration: MigrationSheet['migration'];
  field: 'windowFrom' | 'windowUntil';
  name: string;
}) {
  return (
    <Editable<string | null>
      at={editing('migration.edit', migration)(field)}
      name={name}
      value={migration[field]}
      show={(held) => (held ? minuteOf(held) : 'none')}
      write={(held) => (held ? minuteOf(held) : '')}
      parse={(text) => {
        if (text.trim() === '') return { ok: true, value: null };
        const value = canonicalTime(`${text.trim().replace(' ', 'T')}:00Z`);
        return value
          ? { ok: true, value }
          : { ok: false, sentence: 'Write a minute in UTC, as 2027-01-16 02:00.' };
      }}
      mono
    />
  );
}

/** Its window, and until when it can still be taken back inside it. */
export function Deadline({ sheet: { migration, decideBy, zone } }: { sheet: MigrationSheet }) {
  if (!decideBy || !migration.windowUntil) return null;
  const open = ['planned', 'started', 'switched'].includes(migration.state);
  return (
    <p className="my-1">
      Window {migration.windowFrom && `${minuteOf(migration.windowFrom)} – `}
      {minuteOf(migration.windowUntil)} UTC
      {minuteOf(migration.windowUntil, zone) !== minuteOf(migration.windowUntil) && (
        <span className="text-faint">
          {' '}
          ({migration.windowFrom && `${minuteOf(migration.windowFrom, zone)} – `}
          {minuteOf(migration.windowUntil, zone)} {zone})
        </span>
      )}
      ;{' '}
      {open ? (
        <b className="text-amber">◆ decide by {minuteOf(decideBy.at)}</b>
      ) : (
        `to be decided by ${minuteOf(decideBy.at)}`
      )}{' '}
      (<Figure figure={decideBy.figure} /> before its end)
    </p>
  );
}
