/** A thin level: what is taken on water that is free. Overfull stands out by colour and by its end mark. */
export function Gauge({
  percent,
  after,
  label,
}: {
  percent: number;
  after?: number | null;
  label: string;
}) {
  const moves = after !== undefined && after !== null && Math.abs(after - percent) >= 0.05;
  const width = (value: number) => `${Math.max(0, Math.min(100, value))}%`;
  return (
    <span
      className="relative block h-[7px] w-full bg-water"
      role="img"
      aria-label={`${label} ${Math.round(percent)} %${moves ? `, ${Math.round(after)} % then` : ''}`}
    >
      <span
        className={`absolute inset-y-0 left-0 ${percent > 100 ? 'bg-signal' : 'bg-used'}`}
        style={{ width: width(percent) }}
      />
      {moves && (
        <span
          className="absolute -inset-y-[2px] w-0 border-l-2 border-dashed border-pencil"
          style={{ left: width(after) }}
        />
      )}
    </span>
  );
}
