/** What must be settled before a move, folded behind its number. */
export const SettleFirst = ({
  first,
}: {
  first: readonly { sentence: string; remedy: string }[];
}) =>
  first.length > 0 && (
    <details className="text-[13px]">
      <summary className="min-h-6 cursor-pointer text-amber">
        ◆ {first.length} to settle first
      </summary>
      {first.map(({ sentence, remedy }) => (
        <p key={sentence}>
          {sentence} <span className="text-faint">{remedy}</span>
        </p>
      ))}
    </details>
  );
