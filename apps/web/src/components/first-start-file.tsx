/** A first-start file, shown before it is taken; lines that differ from a sibling's are washed. */
export function FirstStartFile({
  name,
  text,
  differs = [],
}: {
  name: string;
  text: string;
  differs?: readonly number[];
}) {
  const lines = text.replace(/\n$/, '').split('\n');
  return (
    <pre
      tabIndex={0}
      aria-label={name}
      className="mono overflow-x-auto border border-rule p-2 text-[12px] leading-5"
    >
      {lines.map((line, i) =>
        differs.includes(i) ? (
          <mark key={i} className="block bg-sand text-ink">
            {line || ' '}
          </mark>
        ) : (
          <span key={i} className="block">
            {line || ' '}
          </span>
        ),
      )}
    </pre>
  );
}
