/**
 * Durations in seconds. A duration that a person waits for is rounded up to a unit they read: 9 min, 7 h 05 min.
 */
export type Seconds = number & { readonly __unit?: 'seconds' };

/** @example formatDuration(25491.7) // '7 h 05 min' */
export function formatDuration(seconds: Seconds): string {
  if (seconds < 60) return `${Math.ceil(seconds)} s`;
  const minutes = Math.ceil(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48) return `${hours} h ${String(minutes % 60).padStart(2, '0')} min`;
  return `${Math.floor(hours / 24)} d ${String(hours % 24).padStart(2, '0')} h`;
}

/** Reads "9 min", "1 h 30 min", "540 s" as whole seconds. */
export function parseDuration(
  text: string,
): { ok: true; value: Seconds } | { ok: false; sentence: string } {
  const parts = [...text.matchAll(/(\d+)\s*(d|h|min|m|s)\b/gi)];
  const left = text.replace(/(\d+)\s*(d|h|min|m|s)\b/gi, '').trim();
  if (parts.length === 0 || left !== '')
    return { ok: false, sentence: 'Write a duration such as 9 min, 1 h 30 min or 540 s.' };
  const scale: Record<string, number> = { d: 86400, h: 3600, min: 60, m: 60, s: 1 };
  return {
    ok: true,
    value: parts.reduce((sum, [, n, unit]) => sum + Number(n) * scale[unit!.toLowerCase()]!, 0),
  };
}
