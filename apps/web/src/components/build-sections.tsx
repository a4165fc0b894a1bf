/** What a build sheet of a host and one of a guest share: what is not decided, and its sections. */
import type { ReactNode } from 'react';

export const Undecided = ({ what }: { what: readonly string[] }) =>
  what.length > 0 && (
    <p className="no-print my-2 text-amber">
      <b>◆ Not decided yet:</b> {what.join(', ')}. Decide them now, not at the console.
    </p>
  );

export const BuildSection = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="mt-3 break-inside-avoid-page">
    <h2 className="border-b border-ink font-bold">{title}</h2>
    <ul>{children}</ul>
  </section>
);
