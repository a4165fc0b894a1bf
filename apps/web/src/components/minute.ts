/** Times as they are shown everywhere: 2027-01-16 02:00. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** @param time UTC @param zone IANA name of the clock that it is shown by */
export function minuteOf(time: string, zone = 'UTC'): string {
  if (zone === 'UTC') return time.slice(0, 16).replace('T', ' ');
  let format = formats.get(zone);
  if (!format) {
    // Swedish writes days and hours as ISO 8601 does.
    const how = { timeZone: zone, dateStyle: 'short', timeStyle: 'short' } as const;
    format = new Intl.DateTimeFormat('sv-SE', how);
    formats.set(zone, format);
  }
  return format.format(new Date(time));
}
