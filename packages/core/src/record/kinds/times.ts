/** Texts that mean times: when work may be done, and by which clock. */
import { readWindow, readTimeZone } from '../../calendar/index.js';
import { text } from '../field.js';

/** Days and hours as `readWindow` reads them, by the clock of the site; empty: any time. */
export const workWindow = () => ({
  ...text(300),
  reads: (written: string) => {
    const read = readWindow(written);
    return read.ok ? { ok: true as const, value: written.trim() } : read;
  },
});

/** Name of a time zone of the IANA database; empty: nobody said, UTC is taken. */
export const timeZone = () => ({ ...text(64), reads: readTimeZone });
