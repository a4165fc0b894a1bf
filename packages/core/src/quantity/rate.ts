/**
 * Rates. A link speed is bits per second (always decimal, IEEE 802.3); a transfer rate is bytes per second.
 */
export type BitsPerSecond = number & { readonly __unit?: 'bit/s' };
export type BytesPerSecond = number & { readonly __unit?: 'B/s' };

/** Prints a link speed: "1 Gbit/s", "2.5 Gbit/s", "100 Mbit/s". */
export function formatLinkSpeed(rate: BitsPerSecond): string {
  return rate >= 1e9 ? `${rate / 1e9} Gbit/s` : `${rate / 1e6} Mbit/s`;
}

/** Prints a transfer rate with one decimal: "117.7 MB/s". */
export function formatRate(rate: BytesPerSecond): string {
  return `${(rate / 1e6).toFixed(1)} MB/s`;
}
