import { chmodSync, rmSync } from 'node:fs';
import { createServer, type IncomingMessage } from 'node:http';
import { deserialize } from 'node:v8';
import { InputError } from '../core/errors/inputError';
import '../server/pages/procedures';
import { currentSnapshot } from '../server/catalog/snapshot';
import { closePools } from '../server/db/connection';
import { errorWords } from '../server/db/statement';
import { EvaluationFailed } from '../server/monitoring/failure';
import { log, observe } from '../server/monitoring/monitoring';
import { prewarmPages } from '../server/pages/prewarm';
import { dispatch, ofItself, packed, placeOf, type Reply } from '../server/rpc/rpc';

/**
 * An evaluator: one of the few processes of a machine, mostly the only one, that hold the catalog. It answers the questions of web
 * processes over a socket that only this user may open. It changes nothing, so it can end and begin at any moment.
 */
const socket = process.env.LIVELY_EVALUATOR_SOCKET ?? '';
if (socket === '') throw new Error('LIVELY_EVALUATOR_SOCKET says where the evaluator listens.');
/** Which one it is, of how many: they share the feeds. */
const [place = 0, count = 1] = (process.env.LIVELY_EVALUATOR_PLACE ?? '0/1').split('/').map(Number);

/** Of fewer items pages are made at once anyway. */
const worthWarming = 5000;
let stopping = false;

async function bodyOf(incoming: IncomingMessage): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of incoming) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
}

/** Nobody waits, nor is likely to ask the next moment, where the last answer is so long ago. In ms. */
const longQuiet = 5000;
let answering = 0;
let lastAnswer = Number.NEGATIVE_INFINITY;

async function quiet(): Promise<void> {
  while (answering > 0 || performance.now() - lastAnswer < longQuiet)
    await new Promise((resolve) => setTimeout(resolve, longQuiet / 10));
}

async function replyTo(name: string, body: Buffer): Promise<Reply> {
  const counts = ofItself.has(name) ? 0 : 1;
  answering += counts;
  try {
    const given = deserialize(body) as unknown[];
    return { ok: await observe(`answer ${name}`, { question: name }, () => dispatch(name, given)) };
  } catch (error) {
    if (error instanceof InputError) return { input: { code: error.code, facts: error.facts } };
    if (error instanceof EvaluationFailed) return { failed: error.message };
    log.error({ question: name, err: error }, 'not answered');
    return { error: errorWords(error) };
  } finally {
    answering -= counts;
    if (counts > 0) lastAnswer = performance.now();
  }
}

const server = createServer((incoming, response) => {
  let gone = false;
  response.on('close', () => {
    gone = !response.writableEnded;
  });
  void (async () => {
    const body = await bodyOf(incoming);
    // What came in while this was busy goes first: one who left meanwhile is not answered.
    await new Promise((resolve) => setImmediate(resolve));
    if (gone) return;
    response.end(packed(await replyTo(decodeURIComponent((incoming.url ?? '/').slice(1)), body)));
  })().catch((error) => {
    log.error(error);
    response.destroy();
  });
});
server.requestTimeout = 0;
server.keepAliveTimeout = 60_000;

const stop = () => {
  stopping = true;
  server.close(() => void closePools().then(() => process.exit(0)));
  server.closeAllConnections();
};
process
  .on('SIGTERM', stop)
  .on('SIGINT', stop)
  .on('disconnect', () => process.exit(0));

rmSync(socket, { force: true });
server.listen(socket, () => {
  chmodSync(socket, 0o600);
  process.send?.('ready');
  // The first who asks finds the catalog there, and soon what pages are made of.
  void currentSnapshot()
    .then(({ rows }) =>
      rows.length < worthWarming ? undefined : prewarmPages(quiet, (feed) => placeOf(feed, count) === place),
    )
    .catch((error) => stopping || log.warn(error));
});
