/** The web process: Next behind a plain HTTP server on loopback. */
import { createServer } from 'node:http';
import next from 'next';
import { gatekeeper } from './hosts.mjs';

// Files that any process of the application makes are its user's alone.
process.umask(0o077);
const dev = process.argv.includes('--dev');
const port = Number(process.env.PORT ?? 3160);
const hostname = '127.0.0.1';
const keeper = gatekeeper({
  port,
  hosts: process.env.LIVELY_HOSTS,
  proxies: process.env.LIVELY_PROXY,
  dev,
});
/** Connections at one time; more wait in the kernel's queue. */
const MAX_CONNECTIONS = 2000;
/** A connection without a byte in either direction for so long is ended, in ms. A page may take minutes to be made. */
const IDLE_MS = 5 * 60_000;
// In production Next hangs its upgrade handler on this server, which never listens; while developing pages reload through it.
const app = next({ dev, hostname, port, ...(dev ? {} : { httpServer: createServer() }) });
await app.prepare();
const handle = app.getRequestHandler();

/** Whether every escape of an address's path can be read. */
function isReadable(url) {
  try {
    decodeURIComponent(url.split('?')[0]);
    return true;
  } catch {
    return false;
  }
}

const server = createServer((request, response) => {
  const refused = keeper.look(request);
  response.setHeader('x-content-type-options', 'nosniff');
  response.setHeader('referrer-policy', 'same-origin');
  response.setHeader('x-frame-options', 'DENY');
  response.setHeader('cross-origin-opener-policy', 'same-origin');
  response.setHeader('cross-origin-resource-policy', 'same-origin');
  if (refused) {
    response.writeHead(refused.status, { 'content-type': 'application/json', 'cache-control': 'no-store' });
    response.end(JSON.stringify({ error: refused.words }));
    return;
  }
  if (!isReadable(request.url ?? '/')) {
    response.writeHead(400, { 'content-type': 'application/json', 'cache-control': 'no-store' });
    response.end(JSON.stringify({ error: 'The address holds an escape that cannot be read.' }));
    return;
  }
  const { nonce, value } = keeper.policy();
  response.setHeader('content-security-policy', value);
  // What is not said to be kept is private and not kept.
  // A channel that fetches asks whether its copy still counts.
  const fetched = request.url?.startsWith('/api/fetched/') ?? false;
  response.setHeader('cache-control', fetched ? 'private, no-cache' : 'private, no-store');
  // Next puts the nonce of this header on the scripts it writes.
  request.headers['content-security-policy'] = value;
  request.headers['x-nonce'] = nonce;
  handle(request, response).catch((error) => {
    console.error(error);
    if (!response.headersSent) response.writeHead(500, { 'content-type': 'application/json' });
    response.end(JSON.stringify({ error: 'Something went wrong here. The log has the reason.' }));
  });
});
server.requestTimeout = 30 * 60_000;
server.headersTimeout = 20_000;
server.setTimeout(IDLE_MS);
server.maxConnections = MAX_CONNECTIONS;
// Nothing here speaks another protocol than HTTP: what asks for one is answered and ended.
server.on('upgrade', (request, socket) => {
  socket.on('error', () => socket.destroy());
  if (dev && !keeper.look(request)) return;
  socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\ncontent-length: 0\r\n\r\n', () =>
    socket.destroy(),
  );
});
server.listen(port, hostname, () => process.send?.('ready'));
const stop = () => {
  server.close(() => process.exit(0));
  server.closeAllConnections();
};
process
  .on('SIGTERM', stop)
  .on('SIGINT', stop)
  .on('disconnect', () => process.exit(0));
