/** A server or command does not start: one sentence and what to do. */
export class StartProblem extends Error {
  constructor(
    sentence: string,
    readonly remedy: string,
  ) {
    super(sentence);
  }
}
