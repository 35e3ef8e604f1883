import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { gzipSync } from 'node:zlib';
import { createConnection } from 'mysql2/promise';
import { errorAnswer } from '@/server/auth/answers';
import { guardAddress, isPublic } from '@/server/net/address';
import { fetchOutside, retryAfter } from '@/server/net/fetching';
import { settings } from '@/server/runtime/settings';
import { exchangeSeconds } from '@/server/transports/exchange';
import { closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

describe('the database', () => {
  const { database, ...server } = settings.database;

  test.each(['root', '', 'mysql', 'lively'])('nobody enters as “%s” without the password', async (user) => {
    for (const host of ['127.0.0.1', '::1'])
      for (const password of ['', 'root', 'lively'])
        await expect(createConnection({ ...server, host, user, password })).rejects.toThrow();
  });

  test('there is one account, and it may not do more than it needs', async () => {
    const connection = await createConnection({ ...server, database });
    try {
      const [grants] = await connection.query<never>('show grants');
      expect(JSON.stringify(grants)).not.toMatch(/ALL PRIVILEGES|FILE|SUPER|GRANT OPTION|PROCESS/);
      for (const statement of [
        "select 1 into outfile '/tmp/lively-outfile'",
        "select load_file('/etc/hostname') is null as closed",
        "load data infile '/etc/hostname' into table item",
        'select user from mysql.user',
        "create user intruder@'%'",
        "set global general_log_file = '/tmp/x.log'",
      ]) {
        const answer = await connection.query(statement).catch((error: Error) => error);
        if (statement.includes('load_file')) expect(JSON.stringify(answer)).toContain('"closed":1');
        else expect(answer).toBeInstanceOf(Error);
      }
    } finally {
      await connection.end();
    }
  });

  test('the server is not run by root where another user is there', () => {
    const { stdout } = spawnSync('ps', ['-eo', 'user=,args='], { encoding: 'utf8' });
    const line = stdout.split('\n').find((one) => one.includes(`--port=${settings.database.port}`));
    expect(line).toBeDefined();
    if (process.getuid?.() === 0) expect(line).not.toMatch(/^root\b/);
    expect(line).toContain('--secure-file-priv=');
  });
});

// Source: the IANA registries of special-purpose addresses for IPv4 and IPv6 (RFC 6890 and its successors), one of each block.
test.each([
  '0.0.0.1',
  '10.1.2.3',
  '100.64.0.1',
  '127.0.0.1',
  '127.255.1.1',
  '169.254.169.254',
  '172.16.0.1',
  '172.31.255.1',
  '192.0.0.8',
  '192.0.2.1',
  '192.88.99.1',
  '192.168.1.1',
  '198.18.0.1',
  '198.51.100.7',
  '203.0.113.9',
  '224.0.0.1',
  '240.0.0.1',
  '255.255.255.255',
  '::',
  '::1',
  '::ffff:127.0.0.1',
  '::ffff:10.0.0.1',
  '64:ff9b::7f00:1',
  '64:ff9b:1::1',
  '100::1',
  '2001::1',
  '2001:db8::1',
  '2002:7f00:1::1',
  'fc00::1',
  'fd12:3456::1',
  'fe80::1',
  'ff02::1',
])('%s is not reached', (address) => {
  expect(isPublic(address)).toBe(false);
});

test.each([
  '8.8.8.8',
  '93.184.215.14',
  '172.32.0.1',
  '100.128.0.1',
  '2606:2800:21f:cb07:6820:80da:af6b:8b2c',
])('%s is', (address) => expect(isPublic(address)).toBe(true));

test.each(['0x7f000001', '2130706433', '0177.0.0.1', '127.1', 'localhost', '[::ffff:7f00:1]'])(
  'however it is written: %s is this machine',
  async (name) => {
    await expect(guardAddress(`http://${name}/x`)).rejects.toThrow(/own network/);
  },
);

describe('what is fetched', () => {
  let server: Server;
  let origin = '';
  const kept = settings.simulators;
  beforeAll(async () => {
    server = createServer((request, response) => {
      const path = request.url ?? '';
      if (path === '/drip') {
        response.writeHead(200);
        const drip = setInterval(() => response.write('x'), 50);
        response.on('close', () => clearInterval(drip));
      } else if (path === '/silent') return;
      else if (path === '/inside')
        response.writeHead(302, { location: 'http://169.254.169.254/latest' }).end();
      else if (path === '/taken') {
        let bytes = 0;
        request.on('data', (piece: Buffer) => {
          bytes += piece.length;
        });
        request.on('end', () => response.end(`${bytes} of ${request.headers['content-length']}`));
      } else if (path === '/circle') response.writeHead(302, { location: '/circle' }).end();
      else if (path === '/bomb') {
        response.writeHead(200, { 'content-encoding': 'gzip' });
        response.end(gzipSync(Buffer.alloc(20_000_000)));
      } else response.end('hello');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const address = server.address();
    origin = `http://127.0.0.1:${typeof address === 'object' ? address?.port : ''}`;
    // The simulators are the one place inside that may be fetched from; here it is this server.
    settings.simulators = origin;
  });
  afterAll(async () => {
    settings.simulators = kept;
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  });
  const limits = { seconds: 2, bytes: 1_000_000 };
  const read = async (path: string, more = {}) => {
    const answer = await fetchOutside(`${origin}${path}`, { ...limits, ...more });
    return (await answer.bytes()).toString();
  };

  test('comes', async () => {
    expect(await read('/')).toBe('hello');
  });

  test('what is sent as it is read arrives whole, and says its length beforehand', async () => {
    const pieces = Array.from({ length: 40 }, (_, n) => new Uint8Array(10_000 + n));
    const bytes = pieces.reduce((sum, { length }) => sum + length, 0);
    const sent = async function* () {
      for (const piece of pieces) yield piece;
    };
    expect(await read('/taken', { method: 'PUT', body: { read: sent(), bytes } })).toBe(
      `${bytes} of ${bytes}`,
    );
  });

  test('a large file has more time than a small one', () => {
    expect([exchangeSeconds(), exchangeSeconds(1)]).toEqual([20, 21]);
    // 300 MB over a line of 2 Mbit/s.
    expect(exchangeSeconds(300 * 1024 ** 2)).toBeGreaterThanOrEqual(1200);
  });

  test.each(['/drip', '/silent'])('%s: the time valid until the last byte', async (path) => {
    await expect(read(path)).rejects.toThrow('did not finish within 2 seconds');
  });

  test('what unpacks to more than it may be is cut off', async () => {
    await expect(read('/bomb', { seconds: 60 })).rejects.toThrow('larger than 977 KB');
  });

  test('a redirect into the network is looked at like the first address, a circle ends', async () => {
    await expect(read('/inside')).rejects.toThrow('own network');
    await expect(read('/circle')).rejects.toThrow('redirects more than 5 times');
  });

  test('a name that means another address by the time of connecting goes to the one that was looked at', async () => {
    const port = new URL(origin).port;
    settings.simulators = `http://changes.example:${port}`;
    let asked = 0;
    const find = async () => {
      asked++;
      return [{ address: asked === 1 ? '127.0.0.1' : '10.0.0.1' }];
    };
    const answer = await fetchOutside(`http://changes.example:${port}/`, { ...limits, find });
    expect((await answer.bytes()).toString()).toBe('hello');
    expect(asked).toBe(1);
    settings.simulators = origin;
    // Elsewhere than at the simulators the same answer is refused.
    await expect(guardAddress(`http://other.example:${port}/`, find)).rejects.toThrow('own network');
  });
});

test.each([
  ['5', 5000],
  ['0', 500],
  ['999999999', 600_000],
  ['-5', 500],
  ['soon', 1000],
  [null, 1000],
  ['Wed, 21 Oct 2015 07:28:30 GMT', 30_000],
  ['Wed, 21 Oct 2015 07:20:00 GMT', 500],
  ['Wed, 21 Oct 2099 07:28:00 GMT', 600_000],
])('Retry-After: %s is a wait of %i ms', (header, wait) => {
  expect(retryAfter(header, Date.parse('2015-10-21T07:28:00Z'))).toBe(wait);
});

test('a full disk, a database that is away and what nobody foresaw are said in words', () => {
  const of = (code: string) =>
    errorAnswer(new Error('query', { cause: Object.assign(new Error(code), { code }) }), 'x');
  expect(of('ENOSPC')).toMatchObject({ status: 503, words: expect.stringContaining('disk is full') });
  expect(of('ECONNREFUSED').words).toContain('database does not answer');
  expect(errorAnswer(new Error('secret at /srv'), 'x').words).not.toContain('secret');
});

test('a licence stands beside the code, and those of what it uses are listed', () => {
  expect(readFileSync('LICENSE', 'utf8')).toContain('Lively Cart');
  const listed = readFileSync('docs/licences.md', 'utf8');
  const { dependencies } = JSON.parse(readFileSync('package.json', 'utf8'));
  for (const name of Object.keys(dependencies)) expect(listed).toContain(`| ${name} |`);
});
