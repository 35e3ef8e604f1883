import { createHash, randomUUID } from 'node:crypto';
import { readFile as readWhole } from 'node:fs/promises';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import { judge, type ReportEntry, readFile } from './lanternry';

/** All simulated channels behind one port. They keep what they were sent in memory, as long as they run. */
const port = Number(process.env.LIVELY_STANDINS_PORT ?? 3461);
const workTime = Number(process.env.LIVELY_STANDIN_SECONDS ?? 4) * 1000;
const mostBytes = 256 * 1024 * 1024;

interface Taken {
  ready: number;
  report: ReportEntry[];
}

const files = new Map<string, Taken>();
const byKey = new Map<string, string>();
/** Times of the last posts: at most six a minute are taken. */
let posts: number[] = [];

function say(
  response: ServerResponse,
  status: number,
  body: unknown,
  headers: Record<string, string> = {},
): void {
  response.writeHead(status, { 'content-type': 'application/json', ...headers });
  response.end(JSON.stringify(body));
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > mostBytes) throw new Error('too large');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}

async function takeFile(request: IncomingMessage, response: ServerResponse, country: string): Promise<void> {
  const key = String(request.headers['idempotency-key'] ?? '');
  const known = byKey.get(key);
  if (known) return say(response, 202, { id: known });
  const now = Date.now();
  posts = posts.filter((time) => now - time < 60_000);
  if (posts.length >= 6) return say(response, 429, { error: 'six files a minute' }, { 'retry-after': '10' });
  posts.push(now);
  let report: ReportEntry[];
  try {
    report = judge(readFile(await bodyOf(request)), country);
  } catch (error) {
    return say(response, 400, {
      error: `not a readable file: ${error instanceof Error ? error.message : error}`,
    });
  }
  const id = randomUUID();
  files.set(id, { ready: now + workTime, report });
  if (key) byKey.set(key, id);
  say(response, 202, { id });
}

/** The simulated shop and suppliers: their files, with validators (RFC 9110) so that nothing is fetched twice. */
const supplierFolder = process.env.LIVELY_SUPPLIER_FILES ?? 'demo/sources';

async function serveFile(name: string, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const bytes = await readWhole(join(supplierFolder, name)).catch(() => undefined);
  if (!bytes) return say(response, 404, { error: 'no such file' });
  const etag = `"${createHash('sha256').update(bytes).digest('hex').slice(0, 20)}"`;
  if (request.headers['if-none-match'] === etag) {
    response.writeHead(304, { etag }).end();
    return;
  }
  response.writeHead(200, { 'content-type': 'application/octet-stream', etag }).end(bytes);
}

const server = createServer((request, response) => {
  const url = new URL(request.url ?? '/', 'http://standins');
  const file = /^\/files\/([\w.-]+)$/.exec(url.pathname)?.[1];
  if (request.method === 'GET' && file) {
    serveFile(file, request, response).catch((error) => say(response, 500, { error: String(error) }));
    return;
  }
  const report = /^\/lanternry\/files\/([\w-]+)\/report$/.exec(url.pathname)?.[1];
  if (request.method === 'GET' && url.pathname === '/health') return say(response, 200, { ok: true });
  if (request.method === 'POST' && url.pathname === '/lanternry/files') {
    takeFile(request, response, url.searchParams.get('country') ?? 'DE').catch((error) =>
      say(response, 500, { error: String(error) }),
    );
    return;
  }
  if (request.method === 'GET' && report) {
    const taken = files.get(report);
    if (!taken) return say(response, 404, { error: 'no such file' });
    if (Date.now() < taken.ready) return say(response, 202, { state: 'working' }, { 'retry-after': '1' });
    return say(response, 200, { entries: taken.report });
  }
  say(response, 404, { error: 'nothing here' });
});

server.listen(port, '127.0.0.1', () => process.send?.('ready'));
server.on('error', (error) => {
  process.stderr.write(`The stand-in channels cannot listen on port ${port}: ${error.message}\n`);
  process.exit(1);
});
const stop = () => server.close(() => process.exit(0));
process
  .on('SIGTERM', stop)
  .on('SIGINT', stop)
  .on('disconnect', () => process.exit(0));
