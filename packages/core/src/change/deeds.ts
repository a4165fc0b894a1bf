/** Types of change that record a deed in the world: a later entry corrects them, nothing takes them back. */
export const DEEDS: ReadonlySet<string> = new Set([
  'migration.step',
  'host.built',
  'volume.delete',
  'hold.release',
  'record.begin',
  'log.note',
  'attachment.redact',
  'undo',
]);
