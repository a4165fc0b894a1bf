import { checkInTurns } from '@insel/contract';
import { ProblemException } from '../problem-exception.js';

/** The main thread is given back at least so often: a long body keeps nobody else waiting. */
const TURN_MS = 20;

/** A body as an instance of its class. @throws ProblemException 422 with every fault, at most 20 */
export async function checkBody<T extends object>(type: new () => T, value: unknown): Promise<T> {
  const checking = checkInTurns(type, value);
  let began = performance.now();
  let turn = checking.next();
  while (!turn.done) {
    if (performance.now() - began > TURN_MS) {
      await new Promise((resolve) => setImmediate(resolve));
      began = performance.now();
    }
    turn = checking.next();
  }
  const result = turn.value;
  if (result.ok) return result.value;
  const [first] = result.complaints;
  throw new ProblemException(422, {
    code: 'bad-field',
    sentence: first!.sentence,
    field: first!.field,
    errors: result.complaints,
  });
}
