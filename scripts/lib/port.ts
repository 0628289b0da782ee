import { createServer } from 'node:net';
import { Failure } from './fail';

function tryPort(port: number): Promise<number | undefined> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(undefined));
    server.listen(port, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address !== null ? address.port : undefined));
    });
  });
}

/** Any free port of the loopback. */
export async function freePort(): Promise<number> {
  const port = await tryPort(0);
  if (port === undefined) throw new Failure('No port of 127.0.0.1 is free.');
  return port;
}

/** The port that was asked for, or the first free one from Ulvane's own on. */
export async function webPort(asked: string | undefined): Promise<number> {
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Failure(`ULVANE_PORT is “${asked}”: give a number from 1 to 65535.`);
    if ((await tryPort(port)) === undefined)
      throw new Failure(`Port ${port} is in use: stop what uses it, or set ULVANE_PORT to another.`);
    return port;
  }
  for (let port = 4310; port < 4330; port += 1) if ((await tryPort(port)) !== undefined) return port;
  throw new Failure('Ports 4310 to 4329 are all in use: set ULVANE_PORT to a free one.');
}
