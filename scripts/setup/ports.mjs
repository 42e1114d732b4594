import { createServer } from 'node:net';

const tryPort = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(undefined));
    server.listen(port, '127.0.0.1', () => {
      const { port: taken } = server.address();
      server.close(() => resolve(taken));
    });
  });

export const isFree = async (port) => (await tryPort(port)) !== undefined;
export const freePort = () => tryPort(0);

/** Waits for a port whose process has just been ended. */
export async function becomesFree(port) {
  for (let tries = 0; tries < 30; tries += 1) {
    if (await isFree(port)) return true;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return false;
}
