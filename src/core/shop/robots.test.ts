import { rulesOf } from './robots';

const at = 'https://shop.example/robots.txt';
const allowed = (rules: string, path: string) =>
  rulesOf(at, 200, rules).allows(`https://shop.example${path}`);

// Source: RFC 9309, Robots Exclusion Protocol, with its "foobot" called as these visits are.
describe('the rules of a shop, against the examples of RFC 9309', () => {
  const simple = `User-Agent: *
Disallow: *.gif$
Disallow: /example/
Allow: /publications/

User-Agent: livelycart
Disallow:/
Allow:/example/page.html
Allow:/example/allowed.gif

User-Agent: barbot
User-Agent: bazbot
Disallow: /example/page.html

User-Agent: quxbot
`;
  it.each([
    ['/example/page.html', true],
    ['/example/allowed.gif', true],
    ['/example/other.html', false],
    ['/publications/', false],
  ])('5.1: its own group alone counts: %s is %s', (path, expected) =>
    expect(allowed(simple, path)).toBe(expected),
  );

  const forOthers = simple.replace('livelycart', 'foobot');
  it.each([
    ['/publications/one.html', true],
    ['/example/page.html', false],
    ['/picture.gif', false],
    ['/picture.gif?size=2', true],
    ['/', true],
  ])('5.1: without a group of its own that of all counts: %s is %s', (path, expected) =>
    expect(allowed(forOthers, path)).toBe(expected),
  );

  it('5.2: the longest match counts, wherever it stands', () => {
    const rules = `User-Agent: LivelyCart
Allow: /example/page/
Disallow: /example/page/disallowed.gif
`;
    expect(allowed(rules, '/example/page/disallowed.gif')).toBe(false);
    expect(allowed(rules, '/example/page/other.gif')).toBe(true);
  });

  it('2.2.2: letters beyond ASCII match in either form', () => {
    for (const path of ['/foo/bar/ツ', '/foo/bar/%E3%83%84'])
      expect(allowed(`User-agent: *\nDisallow: ${path}\n`, '/foo/bar/%E3%83%84')).toBe(false);
    expect(allowed('User-agent: *\nDisallow: /foo/bar?baz=quz\n', '/foo/bar?baz=quz')).toBe(false);
  });

  it('2.2.3: # begins a remark, * is any signs, $ the end', () => {
    expect(allowed('User-agent: * # all\nDisallow: / # nothing for anybody\n', '/pot')).toBe(false);
    expect(allowed('User-agent: *\nDisallow: /this/path/exactly$\n', '/this/path/exactly')).toBe(false);
    expect(allowed('User-agent: *\nDisallow: /this/path/exactly$\n', '/this/path/exactly/not')).toBe(true);
    expect(allowed('User-agent: *\nDisallow: /this/*/exactly\n', '/this/one/path/exactly')).toBe(false);
  });

  it.each([
    [404, true],
    [403, true],
    [500, false],
    [503, false],
    [429, false],
  ])('2.3.1: an answer of %i allows all: %s', (status, expected) =>
    expect(rulesOf(at, status, '').allows('https://shop.example/pot')).toBe(expected),
  );

  it('2.3.1.4: where nothing answers, nothing is visited', () =>
    expect(rulesOf(at, 599, undefined).allows('https://shop.example/pot')).toBe(false));

  it('2.5: no more than 500 KiB are read', () => {
    const long = `User-agent: *\n${'#'.repeat(500 * 1024)}\nDisallow: /\n`;
    expect(allowed(long, '/pot')).toBe(true);
  });

  it('an empty file, and one that is none, forbid nothing', () => {
    expect(allowed('', '/pot')).toBe(true);
    expect(allowed('<!doctype html><h1>Not found</h1>', '/pot')).toBe(true);
  });

  it('keeps the pause that is asked for, within a minute', () => {
    expect(rulesOf(at, 200, 'User-agent: *\nCrawl-delay: 7\n').pause).toBe(7);
    expect(rulesOf(at, 200, 'User-agent: *\nCrawl-delay: 86400\n').pause).toBe(60);
    expect(rulesOf(at, 200, 'User-agent: *\nCrawl-delay: soon\n').pause).toBe(0);
  });
});
