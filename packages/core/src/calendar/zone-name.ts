/** A time zone as somebody writes it; empty: not said. Kept as the time zone database writes it. */
export function readTimeZone(
  text: string,
): { ok: true; value: string } | { ok: false; sentence: string } {
  const asked = text.trim();
  if (asked === '') return { ok: true, value: '' };
  try {
    if (/^[+-]/.test(asked)) throw new RangeError('an offset knows nothing of summer');
    const known = Intl.supportedValuesOf('timeZone').find(
      (name) => name.toLowerCase() === asked.toLowerCase(),
    );
    const { timeZone } = new Intl.DateTimeFormat('en', { timeZone: asked }).resolvedOptions();
    return { ok: true, value: known ?? (timeZone === 'UTC' ? 'UTC' : asked) };
  } catch {
    return {
      ok: false,
      sentence: `"${asked}" is no time zone: write one as Europe/Lisbon, or UTC.`,
    };
  }
}
