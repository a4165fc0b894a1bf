/** What a write throws that came to nothing, or of which nobody knows whether it did. */

/** A write that failed before its commit: for certain nothing was altered. */
export class NotRecorded extends Error {
  constructor(override readonly cause: unknown) {
    super('The write failed before its commit.');
  }
}

/** The connection was lost in the commit, and the database could not be asked since. */
export class PerhapsRecorded extends Error {
  constructor(override readonly cause: unknown) {
    super('The connection was lost in the commit.');
  }
}
