// A gate before the database: shut, it looks to the server as a database that was killed or is being restarted.

import { createServer, Socket, type Server } from 'node:net';

export class DatabaseGate {
  private readonly sockets = new Set<Socket>();
  private server: Server | undefined;
  private shut = false;

  constructor(private readonly databaseUrl: string) {}

  /** The address of the database through the gate. */
  async open(): Promise<string> {
    const target = new URL(this.databaseUrl);
    const server = createServer((near) => {
      if (this.shut) return void near.destroy();
      const far = new Socket().connect(Number(target.port), target.hostname);
      for (const [one, other] of [[near, far] as const, [far, near] as const]) {
        this.sockets.add(one);
        one.on('error', () => one.destroy());
        one.on('close', () => {
          this.sockets.delete(one);
          other.destroy();
        });
        one.pipe(other);
      }
    });
    this.server = server;
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    const url = new URL(this.databaseUrl);
    url.host = `127.0.0.1:${port}`;
    return url.href;
  }

  /** Breaks every connection, and takes no new one for so long. */
  async cut(ms: number): Promise<void> {
    this.shut = true;
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => setTimeout(resolve, ms));
    this.shut = false;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise<void>((resolve) => this.server?.close(() => resolve()) ?? resolve());
  }
}
