/**
 * Which answers each browser window was given, so that after a change it asks again only for what the change alters. An answer
 * that is watched carries a mark; the window's stream of events names the marks of answers that no longer hold. What carries no
 * mark, or that of another server, has to be asked again after every change.
 */
import type { Fleet } from '@insel/core';
import { Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';

/** Answers of one window; before more are given the oldest counts as altered. */
const MOST_ANSWERS = 200;
/** Windows that do not listen (yet). */
const MOST_SILENT = 200;

interface Given {
  mark: string;
  count: number;
  /** It alters by itself then, in ms. */
  until: number;
  stop: () => void;
}

interface Window {
  /** The stream that listens for it. */
  listener: object | null;
  /** By what was asked. */
  readonly given: Map<string, Given>;
  altered: string[];
}

@Injectable()
export class Watches {
  /** Marks of this server begin with it. */
  readonly server = randomUUID();
  private readonly windows = new Map<string, Window>();
  private marks = 0;

  /**
   * @param from which window asks what: its answer takes the place of the one before. Requests of a window are counted, since
   * they need not arrive in their order: the answer to the latest is the one that is shown
   * @param read at once, from that fleet
   * @returns the mark is null where a later request for the same was answered already
   */
  watched<T>(
    { id, count, question }: { id: string; count: number; question: string },
    { fleet, now }: { fleet: Fleet; now: string },
    read: () => T,
  ): { answer: T; mark: string | null } {
    this.forgetDeaf(id);
    const { given, altered } = this.windowOf(id);
    if ((given.get(question)?.count ?? 0) > count) return { answer: read(), mark: null };
    const mark = `${this.server}.${(this.marks += 1)}`;
    const { answer, until, stop } = fleet.watched(
      read,
      () => {
        altered.push(mark);
        if (given.get(question)?.mark === mark) given.delete(question);
      },
      Date.parse(now),
    );
    given.get(question)?.stop();
    given.delete(question);
    given.set(question, { mark, count, until, stop });
    for (const [oldest, { mark: old, stop: end }] of given) {
      if (given.size <= MOST_ANSWERS) break;
      end();
      given.delete(oldest);
      altered.push(old);
    }
    return { answer, mark };
  }

  /** A window listens from now on. Gives whether it is known: if not, what it was given before is told by nobody. */
  listen(id: string, listener: object): boolean {
    const known = this.windows.has(id);
    this.windowOf(id).listener = listener;
    return known;
  }

  /** Marks of answers to a window that have altered by time alone; each is told once. */
  overtaken(window: string, now: string): string[] {
    const { given } = this.windows.get(window) ?? {};
    const at = Date.parse(now);
    const found = [...(given ?? [])].filter(([, { until }]) => until <= at);
    for (const [question, { stop }] of found) {
      stop();
      given!.delete(question);
    }
    return found.map(([, { mark }]) => mark);
  }

  /** Marks of answers to a window that no longer hold; each is told once. */
  altered(window: string): string[] {
    return this.windows.get(window)?.altered.splice(0) ?? [];
  }

  /** A stream has ended, and with it the window, unless that listens by another by now. */
  end(id: string, listener: object): void {
    if (this.windows.get(id)?.listener === listener) this.forget(id);
  }

  /** A window that never listens would gather marks without end; should it listen one day, it is told that nothing is known of it. */
  private forgetDeaf(id: string): void {
    const window = this.windows.get(id);
    if (window && !window.listener && window.altered.length >= MOST_ANSWERS) this.forget(id);
  }

  private forget(id: string): void {
    for (const { stop } of this.windows.get(id)?.given.values() ?? []) stop();
    this.windows.delete(id);
  }

  private windowOf(id: string): Window {
    let window = this.windows.get(id);
    if (window) return window;
    const silent = [...this.windows].filter(([, { listener }]) => !listener);
    if (silent.length >= MOST_SILENT) this.forget(silent[0]![0]);
    window = { listener: null, given: new Map(), altered: [] };
    this.windows.set(id, window);
    return window;
  }
}
