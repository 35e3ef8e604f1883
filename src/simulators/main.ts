import { createHash } from 'node:crypto';
import { existsSync, renameSync } from 'node:fs';
import { readFile as readWhole } from 'node:fs/promises';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import { NotFetched } from './fetching';
import { Flickerstall } from './flickerstall';
import { Generic } from './generic';
import type { Answer, Call, Service, World } from './kit';
import { Lanternry } from './lanternry';
import { OrrinBazaar } from './orrinBazaar';
import { OwnShop } from './ownShop';
import { PlazuelaNorte } from './plazuelaNorte';
import { TesselBoards } from './tesselBoards';
import { consolePage, isFault } from './watch';

// What they keep is their user's alone.
process.umask(0o077);

/** All simulated channels behind one port. */
const port = Number(process.env.LIVELY_SIMULATORS_PORT ?? 3461);
const MAX_BYTES = 256 * 1024 * 1024;
const data = process.env.LIVELY_DATA;
// The folder's name in earlier versions.
if (data && existsSync(join(data, 'standins')) && !existsSync(join(data, 'simulators')))
  renameSync(join(data, 'standins'), join(data, 'simulators'));
const world: World = {
  workTime: Number(process.env.LIVELY_SIMULATOR_SECONDS ?? 4) * 1000,
  minute: Number(process.env.LIVELY_MINUTE ?? 60) * 1000,
  folder: process.env.LIVELY_SIMULATORS_FOLDER ?? (data ? join(data, 'simulators') : undefined),
  page: (address) => shop.pageAt(address),
};
const shop = new OwnShop(world);
const services: Service[] = [
  new OrrinBazaar(world),
  new Lanternry(world),
  new TesselBoards(world),
  new Flickerstall(world),
  new PlazuelaNorte(world),
  shop,
  new Generic(world),
];

/** A test account beside each of those that are sent to: it judges as the live one does and keeps what it holds apart. */
const trial: World = { ...world, folder: world.folder && join(world.folder, 'test') };
const trials: Service[] = [
  new OrrinBazaar(trial),
  new TesselBoards(trial),
  new Flickerstall(trial),
  new PlazuelaNorte(trial),
  new Generic(trial),
];
const everyone = [...services, ...trials];

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

function say(response: ServerResponse, { status, body, headers = {}, html }: Answer): void {
  if (html !== undefined)
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8', ...headers }).end(html);
  else
    response
      .writeHead(status, { 'content-type': 'application/json', ...headers })
      .end(JSON.stringify(body ?? null));
}

async function bodyOf(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > MAX_BYTES) throw new Error('too large');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** The simulated shop and suppliers: their files, with validators (RFC 9110) so that nothing is fetched twice. */
const supplierFolder = process.env.LIVELY_SUPPLIER_FILES ?? 'demo/sources';

async function serveFile(name: string, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const bytes = await readWhole(join(supplierFolder, name)).catch(() => undefined);
  if (!bytes) return say(response, { status: 404, body: { error: 'no such file' } });
  const etag = `"${createHash('sha256').update(bytes).digest('hex').slice(0, 20)}"`;
  if (request.headers['if-none-match'] === etag) {
    response.writeHead(304, { etag }).end();
    return;
  }
  response.writeHead(200, { 'content-type': 'application/octet-stream', etag }).end(bytes);
}

/** One question to a service, with the fault that is to come. */
async function ask(
  service: Service,
  call: Omit<Call, 'body'>,
  request: IncomingMessage,
  response: ServerResponse,
) {
  const fault = call.method === 'GET' ? undefined : service.fault('taking');
  if (fault === 'drops') {
    request.once('data', () => request.socket.destroy());
    request.resume();
    return;
  }
  const body = await bodyOf(request);
  switch (fault) {
    case 'busy':
      return say(response, { status: 429, body: { error: 'too many' } });
    case 'busyUntil':
      return say(response, { status: 429, body: { error: 'too many' }, headers: { 'retry-after': '1' } });
    case 'stumbles':
      return say(response, { status: 500, body: { error: 'something broke here' } });
    case 'suspended':
      return say(response, {
        status: 403,
        body: { error: 'The account is suspended for sending too fast.' },
        headers: { 'retry-after': '1' },
      });
    case 'expired':
      return say(response, { status: 401, body: { error: 'The credentials have expired.' } });
    case 'slow':
      await pause(Math.min(3000, world.workTime * 3));
      break;
  }
  const answer = await service.answer({ ...call, body });
  if (fault === 'restarts') process.exit(9);
  if (fault === 'dropsAfter') {
    request.socket.destroy();
    return;
  }
  say(response, answer);
}

/** Names under which the simulators are reached, as a browser or a client writes them. */
const hosts = new Set(['127.0.0.1', 'localhost', '[::1]'].flatMap((name) => [name, `${name}:${port}`]));

/** Whether a request is meant for the simulators, and comes from no foreign page. */
function isOurs({ headers: { host, origin } }: IncomingMessage): boolean {
  if (!hosts.has((host ?? '').toLowerCase())) return false;
  if (origin === undefined) return true;
  try {
    return hosts.has(new URL(origin).host.toLowerCase());
  } catch {
    return false;
  }
}

async function respond(request: IncomingMessage, response: ServerResponse): Promise<void> {
  if (!isOurs(request)) return say(response, { status: 421, body: { error: 'not reached by this name' } });
  const url = new URL(request.url ?? '/', 'http://simulators');
  const file = /^\/files\/([\w.-]+)$/.exec(url.pathname)?.[1];
  if (request.method === 'GET' && file) return serveFile(file, request, response);
  if (url.pathname === '/health') return say(response, { status: 200, body: { ok: true } });
  if (url.pathname === '/watch')
    return say(response, {
      status: 200,
      html: consolePage(
        services,
        trials.filter(({ kept }) => kept.arrivals.length > 0),
      ),
    });
  if (url.pathname === '/state')
    return say(response, {
      status: 200,
      body: Object.fromEntries([
        ...services.map(({ code, kept }) => [code, kept]),
        ...trials.map(({ code, kept }) => [`${code}/test`, kept]),
      ]),
    });
  if (request.method === 'POST' && url.pathname === '/forget') {
    for (const service of everyone) service.forget();
    return say(response, { status: 200, body: { ok: true } });
  }
  if (request.method === 'POST' && url.pathname === '/look') {
    for (const service of services) await service.lookAgain();
    return say(response, { status: 200, body: { ok: true } });
  }
  if (request.method === 'POST' && url.pathname === '/givenUp') {
    const form = new URLSearchParams((await bodyOf(request)).toString('utf8'));
    const service = services.find(({ code }) => code === form.get('service'));
    service?.kept.givenUp.push(form.get('code') ?? '');
    service?.save();
    return say(response, { status: 200, body: { ok: true } });
  }
  if (request.method === 'POST' && url.pathname === '/faults') {
    const form = new URLSearchParams((await bodyOf(request)).toString('utf8'));
    const service = services.find(({ code }) => code === form.get('service'));
    const fault = form.get('fault') ?? '';
    if (!service || !isFault(fault))
      return say(response, { status: 400, body: { error: 'unknown failure' } });
    service.waiting.push(fault);
    response.writeHead(303, { location: '/watch' }).end();
    return;
  }
  const [, code = '', test, rest = ''] = /^\/([^/]+)(\/test)?(\/.*)?$/.exec(url.pathname) ?? [];
  const service = (test ? trials : services).find((one) => one.code === code);
  if (!service) return say(response, { status: 404, body: { error: 'nothing here' } });
  await ask(
    service,
    {
      method: request.method ?? 'GET',
      path: rest,
      query: url.searchParams,
      header: (name) => String(request.headers[name] ?? ''),
    },
    request,
    response,
  );
}

const server = createServer((request, response) => {
  respond(request, response).catch((error) => {
    if (response.headersSent || response.destroyed) return response.destroy();
    if (error instanceof NotFetched)
      return say(response, { status: 503, body: { error: error.message }, headers: { 'retry-after': '2' } });
    say(response, {
      status: 400,
      body: { error: `not readable: ${error instanceof Error ? error.message : error}` },
    });
  });
});

/** Those that fetch do it once an hour by their clock, told or not. */
setInterval(() => {
  for (const service of services) void service.lookAgain();
}, world.minute * 60).unref();

server.on('upgrade', (_request, socket) => socket.destroy());
server.listen(port, '127.0.0.1', () => process.send?.('ready'));
server.on('error', (error) => {
  process.stderr.write(`The simulator channels cannot listen on port ${port}: ${error.message}\n`);
  process.exit(1);
});
const stop = () => server.close(() => process.exit(0));
process
  .on('SIGTERM', stop)
  .on('SIGINT', stop)
  .on('disconnect', () => process.exit(0));
