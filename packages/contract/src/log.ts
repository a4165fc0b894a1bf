import { KIND_NAMES, type Kind } from '@insel/core';
import { ChangeExtras } from './extras.js';
import { Count, Id, OneOf, Optional, Part, Text } from './rules.js';

export class NoteSubject {
  @OneOf(KIND_NAMES) kind!: Kind;
  @Id() id!: string;
}

export class AddNoteBody extends ChangeExtras {
  /** Longer ones are kept beside the log under their hash. */
  @Text(1_000_000) text!: string;
  @Optional() @Part(() => NoteSubject) subject?: NoteSubject;
}

export class RedactBody extends ChangeExtras {}

export class UndoBody extends ChangeExtras {}

export class LogQuery {
  /** Id of a record. */
  @Optional() @Id() subject?: string;
  @Optional() @Text(100) actor?: string;
  @Optional() @Text(100) type?: string;
  @Optional() @Text(100) q?: string;
  /** Entries older than this revision. */
  @Optional() @Count(1, Number.MAX_SAFE_INTEGER) before?: number;
  @Optional() @Count(1, 200) take?: number;
}
