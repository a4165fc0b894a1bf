import type { ReactNode } from 'react';

/** List and sheet side by side; on a narrow screen the open sheet stands alone. */
export function Area({
  list,
  sheet,
  width = 474,
}: {
  list: ReactNode;
  sheet: ReactNode | null;
  width?: number;
}) {
  return (
    <div className="flex h-full min-h-0">
      <div
        className={`min-h-0 ${sheet ? 'hidden shrink-0 border-r border-ink md:block' : 'w-full'}`}
        style={sheet ? { width } : undefined}
      >
        {list}
      </div>
      {sheet && <div className="min-h-0 min-w-0 flex-1 overflow-y-auto px-5 py-4">{sheet}</div>}
    </div>
  );
}

/** Form on the left, consequences live on the right. */
export function Making({
  title,
  form,
  consequences,
}: {
  title: string;
  form: ReactNode;
  consequences: ReactNode;
}) {
  return (
    <div className="flex h-full min-h-0 flex-col overflow-y-auto md:flex-row md:overflow-hidden">
      <div className="shrink-0 px-6 py-4 md:min-h-0 md:flex-1 md:shrink md:overflow-y-auto">
        <h1 className="mb-3">{title}</h1>
        {form}
      </div>
      <aside
        aria-label="Consequences"
        className="w-full shrink-0 border-t border-ink px-5 py-4 md:w-[400px] md:overflow-y-auto md:border-t-0 md:border-l"
      >
        {consequences}
      </aside>
    </div>
  );
}
