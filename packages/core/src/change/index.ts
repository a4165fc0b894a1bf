export * from './begin.js';
export * from './change.js';
export * from './decide.js';
export type { AddNote } from './note.js';
export type { RecordSite } from './record-site.js';
export type { Undo } from './undo.js';
export { STAND_ALONE, type StandAlone } from './stand-alone.js';
