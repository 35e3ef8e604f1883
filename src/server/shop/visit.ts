import { eq } from 'drizzle-orm';
import iconv from 'iconv-lite';
import { InputError } from '../../core/errors/inputError';
import type { ShopVisits } from '../../core/forms/shopVisits';
import { type PageFacts, readPage } from '../../core/shop/page';
import { MAX_RULES, type Rules, rulesOf, visitor } from '../../core/shop/robots';
import { db } from '../db/connection';
import { shopRules } from '../db/schema';
import { type Fetched, fetchOutside, retryAfter } from '../net/fetching';
import { settings } from '../runtime/settings';
import { acquire, type Rate, release } from '../transports/rateLimiter';

/**
 * Visits to the shop's own pages: politely (RFC 9309, one visit at a time, no faster than set), each page now and then, and
 * soon where its item has changed. What a page says is kept; where it says something else than before, its items are counted
 * anew, and where it contradicts the catalog, the sources those came from are fetched again.
 */

/** Of a page so much is read; the rest does not come. In bytes. */
const MAX_PAGE = 3 * 1024 ** 2;

/** Less in trials, where time passes faster. In seconds. */
const secondsForPage = () => Math.max(2, 20 / settings.haste);

const MAX_HOPS = 5;

/** How long a shop's rules hold (RFC 9309, 2.4), and such as could not be read, in ms. */
const rulesHold = 24 * 3600_000;

const failedRulesHold = 10 * 60_000;

const agent = `${visitor}/1.0`;

/** Where a page is visited: at its address, or at the copy that stands for it, where both of that are said. */
const placeOf = (address: string, { pages, at }: ShopVisits): string =>
  pages !== '' && at !== '' && address.startsWith(pages) ? at + address.slice(pages.length) : address;

/** The address that a place of a copy stands for. */
const addressAt = (place: string, { pages, at }: ShopVisits): string =>
  pages !== '' && at !== '' && place.startsWith(at) ? pages + place.slice(at.length) : place;

/** Where the rules of a page are: at the root of its shop, or of the copy that stands for it. */
const rulesAt = (place: string, { pages, at }: ShopVisits): string =>
  pages !== '' && at !== '' && place.startsWith(at) ? `${at}robots.txt` : new URL('/robots.txt', place).href;

/** The path by which rules speak of a page: that of the shop, where a copy stands for it. */
const spokenOf = (place: string, visits: ShopVisits): string => {
  const rules = rulesAt(place, visits);
  const base = rules.slice(0, -'robots.txt'.length);
  return new URL(place.slice(base.length), new URL('/', rules)).href;
};

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** It is not this page's turn yet: in so many ms. */
export class Later extends Error {
  constructor(readonly wait: number) {
    super('later');
  }
}

/** One request leads to the next, which waits for its turn for so long at most, in ms. */
const MAX_WAIT = 70_000;

/**
 * One request to a shop, when it is its turn.
 * @param waits whether it waits for that, being the next of several that belong together
 * @throws Later where it is not its turn
 */
async function politely<T>(
  place: string,
  rate: Rate,
  waits: boolean,
  read: (answer: Fetched) => Promise<T>,
): Promise<T> {
  const destination = `shop ${new URL(place).host}`.slice(0, 190);
  const until = Date.now() + (waits ? MAX_WAIT : 0);
  let turn = await acquire(destination, rate, (secondsForPage() + 10) * 1000);
  while ('wait' in turn) {
    if (Date.now() + turn.wait > until) throw new Later(turn.wait);
    await pause(turn.wait);
    turn = await acquire(destination, rate, (secondsForPage() + 10) * 1000);
  }
  try {
    const answer = await fetchOutside(place, {
      seconds: secondsForPage(),
      bytes: 2 * MAX_PAGE,
      headers: { 'user-agent': agent, accept: 'text/html,application/xhtml+xml;q=0.9,*/*;q=0.5' },
      redirects: 'told',
    });
    const found = await read(answer);
    const requested =
      answer.status === 429 || answer.status === 503 ? answer.header('retry-after') : undefined;
    await release(
      destination,
      turn.holder,
      rate,
      requested !== undefined ? { wait: retryAfter(requested) } : answer.status >= 500 ? 'failed' : 'well',
    );
    return found;
  } catch (error) {
    await release(destination, turn.holder, rate, 'failed');
    throw error;
  }
}

/** The beginning of a body: what comes after it is not waited for. */
async function beginning(body: AsyncIterable<Uint8Array>, most: number): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of body) {
    chunks.push(chunk);
    bytes += chunk.length;
    if (bytes >= most) break;
  }
  return Buffer.concat(chunks).subarray(0, most);
}

/** A shop's rules for visitors, read anew once a day. */
async function rulesFor(place: string, visits: ShopVisits, rate: Rate): Promise<Rules> {
  const at = rulesAt(place, visits);
  const [known] = await db
    .select()
    .from(shopRules)
    .where(eq(shopRules.origin, at.slice(0, 300)));
  const age = known ? Date.now() - known.readAt.getTime() : Number.POSITIVE_INFINITY;
  if (known && age < (known.status >= 500 || known.status === 429 ? failedRulesHold : rulesHold))
    return rulesOf(new URL('/robots.txt', at).href, known.status, known.rules ?? undefined);
  let status = 599;
  let rules: string | undefined;
  try {
    let target = at;
    for (let hop = 0; ; hop++) {
      const found = await politely(target, rate, hop > 0, async (answer) => ({
        status: answer.status,
        to: answer.header('location'),
        text: (await beginning(answer.body, MAX_RULES)).toString('utf8'),
      }));
      const moved = found.status >= 300 && found.status < 400 && found.to !== undefined;
      if (moved && hop < MAX_HOPS && URL.canParse(found.to ?? '', target))
        target = new URL(found.to ?? '', target).href;
      else {
        // A circle of redirects is as good as none (RFC 9309, 2.3.1.2).
        status = moved ? 404 : found.status;
        rules = found.text;
        break;
      }
    }
  } catch (error) {
    if (error instanceof Later || error instanceof InputError) throw error;
  }
  const row = { status, rules: rules ?? null, readAt: new Date() };
  await db
    .insert(shopRules)
    .values({ origin: at.slice(0, 300), ...row })
    .onDuplicateKeyUpdate({ set: row });
  return rulesOf(new URL('/robots.txt', at).href, status, rules);
}

/** A page's text, in the encoding that it or its answer names. */
function textOf(bytes: Buffer, contentType: string | undefined): string {
  const named =
    /charset\s*=\s*["']?([\w-]+)/i.exec(contentType ?? '')?.[1] ??
    /<meta[^>]+charset\s*=\s*["']?([\w-]+)/i.exec(bytes.subarray(0, 4096).toString('latin1'))?.[1] ??
    'utf-8';
  return iconv.decode(bytes, iconv.encodingExists(named) ? named : 'utf-8');
}

/** What a visit came to: what was seen, or in which words nothing was. */
export type Visit = { readonly seen: PageFacts } | { readonly trouble: string };

const nothing = (state: PageFacts['state'], words?: string): Visit => ({
  seen: { state, products: [], ...(words ? { words } : {}) },
});

/** Visits one page. @throws Later where it is not its turn */
export async function visit(address: string, visits: ShopVisits): Promise<Visit> {
  const rate = (pause = 0): Rate => ({ count: 1, seconds: Math.max(60 / visits.perMinute, pause) });
  let target = placeOf(address, visits);
  /** Whether all that led away from the address did so for good. */
  let forGood = true;
  try {
    for (let hop = 0; hop <= MAX_HOPS; hop++) {
      const rules = await rulesFor(target, visits, rate());
      if (!rules.known) return { trouble: 'its robots.txt cannot be read' };
      if (!rules.allows(spokenOf(target, visits))) return nothing('forbidden');
      const found = await politely(target, rate(rules.pause), hop > 0, async (answer) => ({
        status: answer.status,
        to: answer.header('location'),
        type: answer.header('content-type'),
        ok: answer.ok,
        bytes: await beginning(answer.body, answer.ok ? MAX_PAGE : 1),
      }));
      const { status, to, type, ok, bytes } = found;
      if (ok) {
        if (hop > 0 && forGood) return nothing('moved', addressAt(target, visits));
        if (type !== undefined && !/html|xml|text/i.test(type)) return nothing('silent');
        const products = readPage(textOf(bytes, type));
        return { seen: { state: products.length > 0 ? 'read' : 'silent', products } };
      }
      if (status === 404 || status === 410) return nothing('gone');
      if (status < 300 || status >= 400 || to === undefined || !URL.canParse(to, target))
        return { trouble: `it answered ${status}` };
      forGood &&= status === 301 || status === 308;
      const next = new URL(to, target).href;
      if (new URL(next).origin !== new URL(target).origin)
        // Another shop has its own rules and pace; it is not followed there.
        return forGood
          ? nothing('moved', addressAt(next, visits))
          : { trouble: `it leads to ${new URL(next).host}` };
      target = next;
    }
    return { trouble: `it leads on more than ${MAX_HOPS} times` };
  } catch (error) {
    if (error instanceof Later) throw error;
    return { trouble: error instanceof Error ? error.message : String(error) };
  }
}
