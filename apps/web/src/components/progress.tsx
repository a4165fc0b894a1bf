/** How much of something is done, as a thin level like every other. */
export function Progress({ label, value, max }: { label: string; value: number; max: number }) {
  const share = max > 0 ? Math.min(100, (value / max) * 100) : 0;
  return (
    <span
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share)}
      className="relative inline-block h-[8px] w-[220px] bg-water"
    >
      <span className="absolute inset-y-0 left-0 bg-teal" style={{ width: `${share}%` }} />
    </span>
  );
}
