import type { ReactNode } from 'react';

/** One part of a sheet, its heading in the margin. */
/** @param wide over the whole sheet: what it holds says its title itself */
export function Part({
  title,
  children,
  wide = false,
}: {
  title: string;
  children: ReactNode;
  wide?: boolean;
}) {
  if (wide) return <section className="border-t border-rule py-2.5">{children}</section>;
  return (
    <section
      aria-label={title}
      className="grid grid-cols-1 gap-x-4 border-t border-rule py-2.5 md:grid-cols-[104px_1fr]"
    >
      <h2 className="text-[13px] font-bold text-faint md:text-right">{title}</h2>
      <div className="min-w-0">{children}</div>
    </section>
  );
}

/** Pairs of name and value in two columns. */
export function Facts({ children }: { children: ReactNode }) {
  return <dl className="grid grid-cols-1 gap-x-6 gap-y-0.5 lg:grid-cols-2">{children}</dl>;
}

/** @param wide over both columns */
export function Fact({
  name,
  children,
  wide = false,
}: {
  name: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <div
      className={`grid grid-cols-[116px_1fr] gap-2 ${wide ? 'items-start lg:col-span-2' : 'items-baseline'}`}
    >
      <dt className="text-faint">{name}</dt>
      <dd className="min-w-0 [overflow-wrap:anywhere]">{children}</dd>
    </div>
  );
}
