import type { Edge } from '@insel/core';

/** Insel itself, where nobody asked: the beginning of a record, the demo. */
export const SYSTEM: Edge['actor'] = { id: 'system', name: 'Insel', role: 'administrator' };
