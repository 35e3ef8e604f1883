/** The web process: Next behind a plain HTTP server on loopback. */
import { createServer } from 'node:http';
import next from 'next';

const dev = process.argv.includes('--dev');
const port = Number(process.env.PORT ?? 3160);
const hostname = '127.0.0.1';
const app = next({ dev, hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => handle(request, response));
server.listen(port, hostname, () => process.send?.('ready'));
const stop = () => {
  server.close(() => process.exit(0));
  server.closeAllConnections();
};
process
  .on('SIGTERM', stop)
  .on('SIGINT', stop)
  .on('disconnect', () => process.exit(0));
