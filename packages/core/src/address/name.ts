/**
 * Names of machines: one label of letters, digits and hyphens, 1 to 63 long, no hyphen at either end (RFC 1123,
 * section 2.1, which lets a label begin with a digit).
 */
import type { AddressResult } from './ip.js';

export function parseName(text: string): AddressResult<string> {
  const name = text.trim();
  if (name === '') return { ok: false, sentence: 'Write a name.' };
  if (name.length > 63)
    return { ok: false, sentence: `A name has at most 63 characters, this has ${name.length}.` };
  const bad = /[^A-Za-z0-9-]/.exec(name);
  if (bad) {
    const suggestion = name
      .toLowerCase()
      .replace(/[^a-z0-9-]+/g, '-')
      .replace(/^-+|-+$/g, '');
    return {
      ok: false,
      sentence: `"${bad[0]}" cannot stand in a machine's name: letters, digits and hyphens only.`,
      suggestion,
    };
  }
  if (/^-|-$/.test(name))
    return { ok: false, sentence: 'A name neither begins nor ends with a hyphen.' };
  return { ok: true, value: name };
}

/**
 * A name as it was found: what cannot stand in a machine's name is kept, and becomes a finding; recording is not planning.
 * Only what no list could show is refused.
 */
export function foundName(text: string): AddressResult<string> {
  const name = text.normalize('NFC').trim();
  if (name === '' || name.length > 63) return parseName(text);
  if (/[\u0000-\u001f\u007f-\u009f\u2028\u2029]/.test(name))
    return { ok: false, sentence: 'A name stands in one line, without control characters.' };
  return { ok: true, value: name };
}
