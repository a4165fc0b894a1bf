/** The end of a sheet on paper: room for what was different, and who worked from when until when. */
export function PrintedDifferences() {
  return (
    <section aria-label="What was different" className="mt-3 hidden print:block">
      <h2 className="border-b border-ink font-bold">What was different</h2>
      {Array.from({ length: 5 }, (_, i) => (
        <p key={i} className="h-7 border-b border-dotted border-ink" />
      ))}
      <p className="mt-3">Began ____________ Ended ____________ By ________________________</p>
    </section>
  );
}
