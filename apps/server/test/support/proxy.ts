/** A way to the database that can be cut: at a statement, before or after it was passed on, and kept shut. */
import { connect, createServer, type Server, type Socket } from 'node:net';

export class Proxy {
  private server: Server | undefined;
  private readonly open = new Set<Socket>();
  /** Statement to cut at, in lower case, on which side of it, and whether all other connections end with it; once. */
  cutAt: { statement: string; when: 'before' | 'after'; all?: boolean } | undefined;
  /** Texts of the statements that were passed on, one a trip, while it is a list. */
  statements: string[] | undefined;
  private frozen = false;
  /** Takes no connections while true. */
  shut = false;

  constructor(private readonly port: number) {}

  /** Port to connect to. */
  listen(): Promise<number> {
    this.server = createServer((client) => this.pass(client));
    return new Promise((resolve) => {
      this.server!.listen(0, '127.0.0.1', () => {
        resolve((this.server!.address() as { port: number }).port);
      });
    });
  }

  close(): void {
    this.cut();
    this.server?.close();
  }

  /** Passes nothing on until it is thawed; connections stay open, what is sent waits. */
  freeze(): void {
    this.frozen = true;
    for (const socket of this.open) socket.pause();
  }

  thaw(): void {
    this.frozen = false;
    for (const socket of this.open) socket.resume();
  }

  /** Ends every connection at once. */
  cut(): void {
    for (const socket of this.open) socket.destroy();
    this.open.clear();
  }

  private pass(client: Socket): void {
    if (this.shut) return void client.destroy();
    const database = connect(this.port, '127.0.0.1');
    for (const socket of [client, database]) {
      this.open.add(socket);
      socket.on('error', () => undefined);
      socket.on('close', () => {
        this.open.delete(socket);
        client.destroy();
        database.destroy();
      });
    }
    database.on('data', (chunk) => client.write(chunk));
    if (this.frozen) for (const socket of [client, database]) setImmediate(() => socket.pause());
    const read = reader((text) => this.statements?.push(text));
    client.on('data', (chunk) => {
      read(chunk);
      const cut =
        this.cutAt && chunk.toString('latin1').toLowerCase().includes(this.cutAt.statement);
      if (!cut) return void database.write(chunk);
      const { when, all } = this.cutAt!;
      this.cutAt = undefined;
      if (when === 'before') return void client.destroy();
      // Passed on; its answer never arrives.
      database.removeAllListeners('data');
      database.once('data', () => (all ? this.cut() : client.destroy()));
      database.write(chunk);
    });
  }
}

/** Reads what a client sends (PostgreSQL's protocol 3.0, message formats): a query, or a statement that is parsed. */
function reader(tell: (text: string) => void): (chunk: Buffer) => void {
  let held = Buffer.alloc(0);
  let begun = false;
  return (chunk) => {
    held = Buffer.concat([held, chunk]);
    for (;;) {
      // The first message has no type.
      const head = begun ? 1 : 0;
      if (held.length < head + 4) return;
      const length = held.readInt32BE(head);
      if (held.length < head + length) return;
      const type = begun ? String.fromCharCode(held[0]!) : '';
      const body = held.subarray(head + 4, head + length);
      held = held.subarray(head + length);
      begun = true;
      if (type === 'Q') tell(textAt(body, 0));
      // A statement without a name is parsed each time.
      if (type === 'P') tell(textAt(body, body.indexOf(0) + 1));
    }
  };
}
const textAt = (body: Buffer, from: number): string =>
  body.toString('utf8', from, body.indexOf(0, from));
