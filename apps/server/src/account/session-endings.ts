/** Tells what is open for somebody, such as a stream of events, that the session has ended. */
import { Injectable } from '@nestjs/common';

export type Ended = { token: string } | { personId: string; but?: string };

@Injectable()
export class SessionEndings {
  private readonly listeners = new Set<(ended: Ended) => void>();

  /** Gives the way to stop. */
  on(listener: (ended: Ended) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  tell(ended: Ended): void {
    for (const listener of [...this.listeners]) listener(ended);
  }
}

/** @param token of the session that asks; none where a script does */
export const endsWith = (ended: Ended, personId: string, token: string | undefined): boolean =>
  'token' in ended
    ? ended.token === token
    : ended.personId === personId && (token === undefined || token !== ended.but);
