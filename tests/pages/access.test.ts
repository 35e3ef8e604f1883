import { request as send } from 'node:http';
import { connect } from 'node:net';
import { expect, test } from '@playwright/test';

/** A request as no browser would send it. */
function ask(
  address: string,
  { method = 'GET', headers = {} }: { method?: string; headers?: Record<string, string> } = {},
): Promise<{ status: number; headers: Record<string, unknown>; body: string }> {
  const url = new URL(address);
  return new Promise((resolve, reject) => {
    const request = send(
      { host: url.hostname, port: url.port, path: url.pathname + url.search, method, headers },
      (answer) => {
        let body = '';
        answer.setEncoding('utf8');
        answer.on('data', (chunk) => {
          body += chunk;
        });
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body }));
      },
    );
    request.on('error', reject);
    request.end();
  });
}

test('only known names are answered to, whatever headers say', async ({ baseURL }) => {
  for (const host of [
    'evil.example',
    'evil.example:80',
    '127.0.0.1:1',
    '169.254.169.254',
    'localhost.evil.example',
  ])
    for (const path of ['/', '/api/items?columns=sku', '/items'])
      expect([host, (await ask(`${baseURL}${path}`, { headers: { host } })).status]).toEqual([host, 421]);
  const forged = {
    host: 'evil.example',
    'x-forwarded-host': new URL(baseURL ?? '').host,
    forwarded: `host=${new URL(baseURL ?? '').host}`,
  };
  expect((await ask(`${baseURL}/`, { headers: forged })).status).toBe(421);
  expect((await ask(`http://localhost:${new URL(baseURL ?? '').port}/submissions`)).status).toBe(200);
});

test('requests for another protocol are refused and ended, however many come and from wherever', async ({
  baseURL,
}) => {
  const url = new URL(baseURL ?? '');
  /** Asks to speak WebSocket, as a foreign page may. @returns the first line of the answer, once the connection has ended */
  const upgrade = (origin: string) =>
    new Promise<string>((resolve, reject) => {
      const socket = connect(Number(url.port), url.hostname, () =>
        socket.write(
          `GET /_next/webpack-hmr HTTP/1.1\r\nhost: ${url.host}\r\norigin: ${origin}\r\nconnection: Upgrade\r\nupgrade: websocket\r\nsec-websocket-version: 13\r\nsec-websocket-key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n`,
        ),
      );
      let answer = '';
      socket.on('data', (chunk) => {
        answer += chunk;
      });
      socket.on('close', () => resolve(answer.split('\r\n')[0] ?? ''));
      socket.on('error', reject);
    });
  const answers = new Map<string, number>();
  for (let round = 0; round < 30; round++)
    for (const line of await Promise.all(
      Array.from({ length: 100 }, (_, at) => upgrade(at % 2 ? url.origin : 'https://foreign.example')),
    ))
      answers.set(line, (answers.get(line) ?? 0) + 1);
  expect([...answers]).toEqual([['HTTP/1.1 400 Bad Request', 3000]]);
  expect((await ask(`${baseURL}/api/health`)).status).toBe(200);
});

test('what changes something comes from the application’s own pages', async ({ baseURL }) => {
  const post = (headers: Record<string, string>) =>
    ask(`${baseURL}/api/sources?name=x.csv`, { method: 'POST', headers });
  for (const [origin, words] of [
    ['null', 'hides where it comes from'],
    ['http://evil.example', 'own pages only'],
    [`https://${new URL(baseURL ?? '').hostname}`, 'own pages only'],
    ['nonsense', 'own pages only'],
  ] as const) {
    const answer = await post({ origin });
    expect([origin, answer.status]).toEqual([origin, 403]);
    expect(answer.body).toContain(words);
  }
  expect((await post({ 'sec-fetch-site': 'cross-site' })).status).toBe(403);
  expect(
    (await ask(`${baseURL}/`, { method: 'POST', headers: { origin: 'null', 'next-action': 'x' } })).status,
  ).toBe(403);
  expect((await ask(`${baseURL}/`, { method: 'DELETE' })).status).toBe(405);
});

test('addresses that name nothing, are broken or ask twice are answered in words', async ({ baseURL }) => {
  const wanted: [string, number][] = [
    ['/api/runs/abc', 404],
    ['/api/runs/999999', 404],
    ['/api/runs/1e9', 404],
    ['/api/runs/-1/rejected', 404],
    ['/api/submissions/abc/files/0', 404],
    ['/api/submissions/999999/files/0', 404],
    ['/api/submissions/999999/files/x', 404],
    ['/api/fetched/lanternry-de/nobody-knows-it', 404],
    ['/api/fetched/none/x', 404],
    ['/api/feeds/none/plan', 404],
    ['/api/channels/none?version=1', 404],
    ['/api/channels/lanternry', 400],
    ['/api/channels/lanternry?version=abc', 400],
    ['/api/items', 400],
    ['/api/items?columns=sku&filters=%7B', 400],
    ['/api/items?columns=sku&filters=[]', 400],
    ['/api/items?columns=sku&from=-1', 400],
    ['/api/items?columns=sku&columns=name', 200],
    ['/api/items/export?columns=sku&format=exe', 400],
    ['/api/find?q=a&q=b', 200],
    ['/api/health', 200],
    ['/api/metrics', 200],
    ['/pictures/..%2f..%2fetc%2fpasswd', 404],
    ['/pictures/none.jpg', 404],
    ['/items/%E0%A4%A', 400],
    ['/items/none', 404],
    ['/items/constructor', 404],
    ['/sources/abc', 404],
    ['/sources/999999', 404],
    ['/feeds/none/fields', 404],
    ['/feeds/lanternry-de/fields?sample=a&sample=b', 200],
    ['/attributes/__proto__', 404],
    ['/no/such/page', 404],
  ];
  for (const [path, status] of wanted) {
    const answer = await ask(`${baseURL}${path}`);
    expect([path, answer.status]).toEqual([path, status]);
    if (status >= 400 && path.startsWith('/api')) expect(JSON.parse(answer.body).error).toMatch(/\w{3}/);
  }
});

test('a refused file is told to programs too: by its code, with its place', async ({ baseURL }) => {
  const bring = async (name: string, body: string) => {
    const answer = await fetch(`${baseURL}/api/sources?name=${name}`, {
      method: 'POST',
      body,
      headers: { origin: baseURL ?? '' },
    });
    return { status: answer.status, ...(await answer.json()) };
  };
  expect(await bring('zeros.csv', '\0'.repeat(2000))).toMatchObject({ status: 400, code: 'zeros' });
  expect(await bring('broken.xml', '<range>\n<article>\n</range>')).toMatchObject({
    status: 400,
    code: 'xmlBroken',
    place: { line: 3 },
    error: expect.stringContaining('line 3'),
  });
});

test('scripts run by their nonce alone, and nothing private is kept', async ({ page, baseURL }) => {
  const first = await ask(`${baseURL}/items`);
  const second = await ask(`${baseURL}/items`);
  const policy = String(first.headers['content-security-policy']);
  expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]+';/);
  expect(policy).toContain("connect-src 'self';");
  expect(policy).not.toBe(second.headers['content-security-policy']);
  for (const path of ['/', '/items', '/api/items?columns=sku', '/api/feeds/lanternry-de/plan'])
    expect([path, (await ask(`${baseURL}${path}`)).headers['cache-control']]).toEqual([
      path,
      expect.stringContaining('no-store'),
    ]);
  const complaints: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy/i.test(message.text())) complaints.push(message.text());
  });
  await page.goto('/feeds/lanternry-de/titles');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  // What a page's own text might smuggle in does not run.
  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.smuggled = true';
    document.body.append(script);
    return 'smuggled' in window;
  });
  expect(ran).toBe(false);
  expect(complaints.filter((one) => !one.includes('smuggled') && !one.includes('inline'))).toEqual([]);
});

test('a feed that cannot be computed says why, leads back, and every other page works', async ({ page }) => {
  await page.goto('/feeds/lanternry-de/history');
  const grow = Array.from({ length: 45 }, () => ({
    step: 'replacePattern',
    pattern: '(.)',
    with: '$1$1$1$1',
  }));
  const plan = await page.evaluate(() =>
    fetch('/api/feeds/lanternry-de/plan').then((answer) => answer.json()),
  );
  plan.fields.about.alternatives[0].parts[0].steps = grow;
  await page.locator('input[type=file]').setInputFiles({
    name: 'plan.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(plan)),
  });
  await expect(page.getByRole('alert').getByText(/takes too long/)).toBeVisible({
    timeout: 120_000,
  });
  // The history stands below it, and every other page works.
  await expect(page.getByRole('heading', { name: 'Published versions' })).toBeVisible();
  for (const path of ['/', '/items', '/submissions']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  }
  await page.goto('/feeds/lanternry-de/fields');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('navigation', { name: 'Stages' })).toBeVisible();
});

test('addresses of earlier versions lead to today’s, with what they ask for', async ({ baseURL }) => {
  for (const [from, to] of [
    ['/outbox', '/submissions'],
    ['/outbox/insights?days=30', '/submissions/insights?days=30'],
    ['/notices', '/notifications'],
    ['/partners/dunmoor-depot', '/suppliers/dunmoor-depot'],
    ['/numbers', '/gtins'],
    ['/setup', '/settings'],
    ['/feeds/lanternry-de/joining', '/feeds/lanternry-de/matching'],
  ]) {
    const { status, headers } = await ask(`${baseURL}${from}`);
    expect([from, status, headers.location]).toEqual([from, 308, to]);
  }
});
