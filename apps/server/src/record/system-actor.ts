import type { Context } from '@insel/core';

/** Insel itself, where nobody asked: the beginning of a record, the demo. */
export const SYSTEM: Context['actor'] = { id: 'system', name: 'Insel', role: 'administrator' };
