/** A time zone as somebody writes it; empty: not said. Kept as the time zone database writes it. */
export function readTimeZone(
  text: string,
): { ok: true; value: string } | { ok: false; sentence: string } {
  const written = text.trim();
  if (written === '') return { ok: true, value: '' };
  try {
    if (/^[+-]/.test(written)) throw new RangeError('an offset knows nothing of summer');
    const known = Intl.supportedValuesOf('timeZone').find(
      (name) => name.toLowerCase() === written.toLowerCase(),
    );
    const { timeZone } = new Intl.DateTimeFormat('en', { timeZone: written }).resolvedOptions();
    return { ok: true, value: known ?? (timeZone === 'UTC' ? 'UTC' : written) };
  } catch {
    return {
      ok: false,
      sentence: `"${written}" is no time zone: write one as Europe/Lisbon, or UTC.`,
    };
  }
}
