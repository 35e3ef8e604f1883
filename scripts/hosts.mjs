/** Who may be asked for, and by whom: the rules that stand before every page, route and action. */
import { randomBytes } from 'node:crypto';

const list = (text) =>
  (text ?? '')
    .split(',')
    .map((entry) => entry.trim().toLowerCase())
    .filter((entry) => entry !== '');

/** A host header as its name, without the port; undefined where it is none. */
function hostName(header) {
  if (typeof header !== 'string' || header === '' || /[\s/@\\]/.test(header)) return undefined;
  try {
    return new URL(`http://${header}`).host.toLowerCase();
  } catch {
    return undefined;
  }
}

/** The host that an Origin header names; undefined where it names none. */
function originHost(origin) {
  try {
    const { protocol, host } = new URL(origin);
    return protocol === 'http:' || protocol === 'https:' ? host.toLowerCase() : undefined;
  } catch {
    return undefined;
  }
}

const forwarded =
  /^(forwarded|x-forwarded-.*|x-real-ip|x-middleware-.*|x-invoke-.*|x-matched-path|x-nextjs-.*-internal)$/;

/**
 * @param hosts names this application is reached by besides loopback, as they stand in an address (LIVELY_HOSTS)
 * @param proxies addresses of proxies whose forwarded headers are believed (LIVELY_PROXY)
 */
export function gatekeeper({ port, hosts = '', proxies = '', dev = false }) {
  const known = new Set([
    ...['127.0.0.1', 'localhost', '[::1]'].map((name) => (port === 80 ? name : `${name}:${port}`)),
    ...list(hosts),
  ]);
  const trusted = new Set(list(proxies));

  /**
   * Looks at a request before anything else sees it; takes out headers that only a proxy may set.
   * @returns why it is refused, or undefined where it may go on
   */
  function look(request) {
    const fromProxy = trusted.has(request.socket.remoteAddress ?? '');
    let host = hostName(request.headers.host);
    if (fromProxy && typeof request.headers['x-forwarded-host'] === 'string')
      host = hostName(request.headers['x-forwarded-host']);
    for (const name of Object.keys(request.headers))
      if (forwarded.test(name) && !(fromProxy && name.startsWith('x-forwarded-')))
        delete request.headers[name];
    if (host === undefined || !known.has(host))
      return {
        status: 421,
        words: `This application is not reached by the name “${String(request.headers.host ?? '').slice(0, 100)}”. Name it in LIVELY_HOSTS if it is yours.`,
      };
    // As it was read, so that nobody behind this reads it otherwise (127.1 is 127.0.0.1).
    if (!fromProxy) request.headers.host = host;
    if (request.method === 'GET' || request.method === 'HEAD') return undefined;
    if (request.method !== 'POST')
      return { status: 405, words: `Nothing here answers to ${request.method}.` };
    const { origin } = request.headers;
    if (origin === 'null')
      return {
        status: 403,
        words:
          'The page that asks hides where it comes from. Changes are taken from this application’s own pages only.',
      };
    if (
      (origin !== undefined && originHost(origin) !== host) ||
      request.headers['sec-fetch-site'] === 'cross-site' ||
      request.headers['sec-fetch-site'] === 'same-site'
    )
      return { status: 403, words: 'Changes are taken from this application’s own pages only.' };
    return undefined;
  }

  /** The content security policy of one answer; its scripts carry the nonce. */
  function policy() {
    const nonce = randomBytes(16).toString('base64');
    const value = [
      "default-src 'self'",
      `script-src 'self' 'nonce-${nonce}'${dev ? " 'unsafe-eval'" : ''}`,
      // Mantine and the charts write styles of their own.
      "style-src 'self' 'unsafe-inline'",
      "img-src 'self' data: blob:",
      "font-src 'self' data:",
      dev ? "connect-src 'self' ws://127.0.0.1:* ws://localhost:*" : "connect-src 'self'",
      "object-src 'none'",
      "frame-ancestors 'none'",
      "base-uri 'self'",
      "form-action 'self'",
    ].join('; ');
    return { nonce, value };
  }
  return { look, policy };
}
