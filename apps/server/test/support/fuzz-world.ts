/** A small record that is fuzzed, and what came of each body. */
import { guestBody, Installation, recordSmall, recordTern, type Person } from './server.js';

/** Bodies for each change and read, half from a seed that stays, half from one of the day. */
export const BODIES = 300;
export const SEEDS = [
  20_261_126,
  // Another for whoever looks for more; by itself the same twice, so that what fails fails again.
  Number(process.env.INSEL_FUZZ_SEED ?? 11),
];
const AT_ONCE = 8;
/** What takes longer than this hangs. */
const HANGS_MS = 20_000;

export interface Sent {
  what: string;
  method: string;
  path: string;
  body?: string;
}

interface Failed {
  what: string;
  status: number | 'hangs';
  body: string;
  answer: string;
}

export class FuzzWorld {
  readonly here = new Installation();
  keeper!: Person;
  ids = new Map<string, string[]>();

  async begin(): Promise<void> {
    // Not a line for each of so many requests.
    this.keeper = (await this.here.begin({ INSEL_LOG: 'warn' })).administrator;
    const small = await recordSmall(this.keeper);
    await recordTern(this.keeper, small);
    for (const name of ['mist', 'haar'])
      await this.keeper.make('guest.plan', guestBody(small, name));
    const client = await this.here.connect();
    const { rows } = await client.query<{ kind: string; id: string }>(
      `select distinct p->>'kind' as kind, p->>'id' as id from log, jsonb_array_elements(patches) p order by 2`,
    );
    await client.end();
    for (const { kind, id } of rows) this.ids.set(kind, [...(this.ids.get(kind) ?? []), id]);
  }

  /** @returns what failed or hung, and how many answered with which status */
  async sendAll(
    requests: Iterable<Sent>,
  ): Promise<{ failed: Failed[]; statuses: Map<number, number> }> {
    const failed: Failed[] = [];
    const statuses = new Map<number, number>();
    const left = requests[Symbol.iterator]();
    const one = async () => {
      for (let next = left.next(); !next.done; next = left.next()) {
        const { what, path, body } = next.value;
        const answer = await this.send(next.value);
        const status = answer?.status ?? 'hangs';
        if (status !== 'hangs') statuses.set(status, (statuses.get(status) ?? 0) + 1);
        const missing = answer?.text.includes('program-missing');
        if (status === 'hangs' || (status >= 500 && !missing))
          failed.push({
            what,
            status,
            body: `${path} ${body ?? ''}`.slice(0, 700),
            answer: `${answer?.text.slice(0, 200) ?? ''} ${this.lastError()}`,
          });
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
    return { failed, statuses };
  }

  /** What the server said last of a failure. */
  private lastError(): string {
    const text = this.here.servers[0]!.output();
    return text.slice(text.lastIndexOf('ERROR')).slice(0, 400);
  }

  /** Sent again with what was read, where the door asks for it: what lies behind it is reached. */
  private async send({
    method,
    path,
    body,
  }: Sent): Promise<{ status: number; text: string } | null> {
    const answer = await this.keeper.raw(method, path, body, HANGS_MS).catch(() => null);
    if (answer?.status !== 428) return answer;
    const { current } = JSON.parse(answer.text) as { current: unknown };
    const again = JSON.stringify({ ...(JSON.parse(body!) as object), expects: current });
    return this.keeper.raw(method, path, again, HANGS_MS).catch(() => null);
  }
}
