/** Values of a paste, where they are what they should be. */
/** SMBIOS chassis types of portable machines (DMTF DSP0134, table 17: from memory). */
export const PORTABLE = new Set(['8', '9', '10', '11', '14', '30', '31', '32']);
export const string = (value: unknown): string => (typeof value === 'string' ? value : '');
export const list = (value: unknown): Record<string, unknown>[] | null =>
  Array.isArray(value)
    ? value.filter(
        (item): item is Record<string, unknown> => typeof item === 'object' && item !== null,
      )
    : null;
export const whole = (text: string | undefined): number | null =>
  text && /^[1-9]\d{0,8}$/.test(text) ? Number(text) : null;

/** Lines "path=value" by the last part of the path. */
export function pairs(value: unknown): Map<string, string> {
  const found = new Map<string, string>();
  for (const line of string(value).split('\n')) {
    const at = line.indexOf('=');
    const text = line.slice(at + 1).trim();
    if (at > 0 && text) found.set(line.slice(0, at).split('/').pop()!, text.slice(0, 150));
  }
  return found;
}
