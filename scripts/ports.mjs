/** Ports for stacks that tests start beside each other. */
import { createServer } from 'node:net';

/**
 * A port that nothing listens on, below the range the kernel gives to outgoing connections (32768 and up): such a
 * connection could otherwise take the port between this answer and its use.
 * @returns {Promise<number>}
 */
export async function freePort() {
  for (let tries = 0; tries < 1000; tries++) {
    const port = 12_000 + Math.floor(Math.random() * 20_000);
    const free = await new Promise((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (free) return port;
  }
  throw new Error('No free port was found between 12000 and 32000.');
}
