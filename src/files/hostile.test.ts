import { DelimitedReader } from '../core/import/tables/delimited';
import { RepeatCounter } from './repeats';
import { readTables } from './tables';

async function* once(text: string): AsyncGenerator<string> {
  yield text;
}

async function cellsIn(page: string): Promise<number> {
  let count = 0;
  for await (const { cells } of readTables(once(page))) count += cells.length;
  return count;
}

describe('what a few bytes say comes a million times', () => {
  const repeats = (xml: string, size = xml.length): string | undefined => {
    const counter = new RepeatCounter();
    for (let at = 0; at < xml.length; at += size) counter.push(xml.slice(at, at + size));
    return counter.trouble();
  };
  const cell = (more: string, inside = '<text:p>x</text:p>') =>
    `<table:table-cell ${more}>${inside}</table:table-cell>`;

  test.each<[string, string, RegExp | undefined]>([
    [
      'columns',
      `<table:table-row>${cell('table:number-columns-repeated="1000000"')}</table:table-row>`,
      /beyond column/,
    ],
    [
      'rows',
      `<table:table-row table:number-rows-repeated="1000000">${cell('table:number-columns-repeated="1000"')}</table:table-row>`,
      /1,000,000,000 times/,
    ],
    [
      'many rows of many',
      `<table:table-row table:number-rows-repeated="1000">${cell('')}</table:table-row>`.repeat(3000),
      /3,000,000 times/,
    ],
    [
      'a cell behind a billion empty ones',
      `<table:table-row><table:table-cell table:number-columns-repeated="1000000000"/>${cell('')}</table:table-row>`,
      /beyond column/,
    ],
    [
      'empty rows and columns behind the last, as every program writes them',
      `<table:table-row>${cell('').repeat(40)}<table:table-cell table:number-columns-repeated="16344"/></table:table-row><table:table-row table:number-rows-repeated="1048574"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>`,
      undefined,
    ],
    [
      'an ordinary table',
      `<table:table-row>${cell('').repeat(20)}</table:table-row>`.repeat(50_000),
      undefined,
    ],
  ])('%s', (_name, xml, trouble) => {
    for (const size of [xml.length, 61]) {
      if (size === 61 && xml.length > 100_000) continue;
      if (trouble) expect(repeats(xml, size)).toMatch(trouble);
      else expect(repeats(xml, size)).toBeUndefined();
    }
  });

  test('spans over rows and columns are counted', async () => {
    const page = `<table><tr><td rowspan=2000 colspan=2000>SKU</td></tr>${'<tr>'.repeat(20_000)}</table>`;
    await expect(cellsIn(page)).rejects.toThrow(/reach over more than a million/);
    expect(await cellsIn('<table><tr><td rowspan=2>A<td>B<tr><td>C</table>')).toBe(4);
  });

  test.each(['<table><tr><td>', '<div>', '<table>'])(
    '%s inside itself without end is refused',
    async (tag) => {
      await expect(cellsIn(`<table><tr><td>${tag.repeat(100_000)}`)).rejects.toThrow(/nests its elements/);
    },
  );
});

/**
 * Readers take time in proportion to what they read. Of eight times as much a reader that looks at everything again for each part
 * takes sixty-four times as long; a limit of twenty-four times leaves room for a busy machine.
 */
describe('eight times as much takes no more than eight times as long, roughly', () => {
  const rowsOf = (text: string) => {
    const reader = new DelimitedReader(',', 2);
    let count = 0;
    for (const _row of reader.push(text)) count++;
    for (const _row of reader.end()) count++;
    return count;
  };
  const readers: Record<string, (size: number) => unknown> = {
    'A,"b"" in one line': (size) => rowsOf(`h,i\n${'A,"b""'.repeat(size)}`),
    ',"x in one line': (size) => rowsOf(`h,i\n${',"x '.repeat(size)}`),
    'marks that never close, a line each': (size) => rowsOf(`h,i\n${'"a\n'.repeat(size)}`),
    'a mark before each line end': (size) => rowsOf(`h,i\n${'a,b"\n'.repeat(size)}`),
    'tags without end': (size) => {
      const counter = new RepeatCounter();
      for (let at = 0; at < size; at++) counter.push('<table:table-cell a="');
      return counter.trouble();
    },
  };
  test.each(Object.entries(readers))('%s', (_name, read) => {
    const best = (size: number) => {
      let least = Number.POSITIVE_INFINITY;
      for (let round = 0; round < 3; round++) {
        const begun = performance.now();
        read(size);
        least = Math.min(least, performance.now() - begun);
      }
      return least;
    };
    read(2000);
    const [one, eight] = [best(4000), best(32_000)];
    expect(eight / Math.max(one, 4)).toBeLessThan(24);
  });
});
