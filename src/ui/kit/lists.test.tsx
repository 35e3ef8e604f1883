/** @jest-environment jsdom */

import { MantineProvider } from '@mantine/core';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NuqsTestingAdapter, type UrlUpdateEvent } from 'nuqs/adapters/testing';
import type { ReactNode } from 'react';
import { counted } from '@/core/formatting/formatting';
import { Bar } from './display/Bar';
import { CoverageBar } from './display/CoverageBar';
import { type DataColumn, DataTable } from './display/DataTable';
import { FilterChips } from './display/FilterChips';
import { Marked } from './display/Marked';
import { Empty } from './Empty';
import { useOpen, useShown } from './hooks/useOpen';
import { movedBefore, OrderedList } from './inputs/OrderedList';
import { Picture } from './Picture';

const show = (page: ReactNode) => render(<MantineProvider env="test">{page}</MantineProvider>);

interface Line {
  code: string;
  filled: number;
}
const lines: Line[] = [
  { code: 'POT-10', filled: 9 },
  { code: 'pot-2', filled: 100 },
  { code: 'BOX-1', filled: 20 },
];
const columns: DataColumn<Line>[] = [
  { head: 'Code', by: ({ code }) => code, cell: ({ code }) => <b>{code}</b> },
  { head: 'Filled', by: ({ filled }) => filled, cell: ({ filled }) => filled },
  { head: '', cell: () => 'Look' },
];
const cellsOf = (at: number) =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[at]?.textContent);

function OpenPage() {
  const { open, toggle } = useOpen('row');
  const { shown, setShown } = useShown(['all', 'odd']);
  return (
    <>
      <FilterChips
        options={[
          ['all', 'All'],
          ['odd', 'Odd'],
        ]}
        current={shown}
        onPick={setShown}
      />
      <button type="button" onClick={() => toggle('price')}>
        Price
      </button>
      <button type="button" onClick={() => toggle('colour')}>
        Colour
      </button>
      <p role="status">{`${shown} ${open}`}</p>
    </>
  );
}

describe('a table', () => {
  test('shows its rows as they come', () => {
    show(<DataTable rows={lines} columns={columns} keyOf={({ code }) => code} />);
    expect(cellsOf(0)).toEqual(['POT-10', 'pot-2', 'BOX-1']);
    expect(screen.getAllByRole('columnheader').map((head) => head.textContent?.trim())).toEqual([
      'Code',
      'Filled',
      '',
    ]);
  });

  test('sorts numbers by size and codes as a person does, each way, and then as they came', async () => {
    show(<DataTable rows={lines} columns={columns} keyOf={({ code }) => code} />);
    const code = screen.getByRole('button', { name: 'Code' });
    await userEvent.click(code);
    const once = cellsOf(0);
    await userEvent.click(code);
    const twice = cellsOf(0);
    expect([once, twice]).toContainEqual(['BOX-1', 'pot-2', 'POT-10']);
    expect(once).toEqual([...twice].reverse());
    await userEvent.click(code);
    expect(cellsOf(0)).toEqual(['POT-10', 'pot-2', 'BOX-1']);
    await userEvent.click(screen.getByRole('button', { name: 'Filled' }));
    const filled = cellsOf(1).map(Number);
    expect(filled).toEqual([...filled].sort((a, b) => (filled[0] === 100 ? b - a : a - b)));
    expect(screen.getByRole('columnheader', { name: 'Filled' }).getAttribute('aria-sort')).toBe(
      filled[0] === 100 ? 'descending' : 'ascending',
    );
  });

  test('says what is to be said where it is empty', () => {
    show(
      <DataTable
        rows={[]}
        columns={columns}
        keyOf={({ code }) => code}
        empty={<Empty title="No expectations yet." />}
      />,
    );
    expect(screen.getByText('No expectations yet.')).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
  });

  test('takes two columns of one name', () => {
    const twice = [columns[0], { ...columns[0], cell: () => 'second' }] as DataColumn<Line>[];
    show(<DataTable rows={lines.slice(0, 1)} columns={twice} keyOf={({ code }) => code} />);
    expect(screen.getByText('second')).toBeTruthy();
  });

  test('draws only what is in sight of many rows', () => {
    const many = Array.from({ length: 50_000 }, (_, i) => ({ code: `C${i}`, filled: i }));
    show(<DataTable rows={many} columns={columns} keyOf={({ code }) => code} rowHeight={34} />);
    expect(screen.getAllByRole('row', { hidden: true }).length).toBeLessThan(200);
    expect(screen.getByRole('table').getAttribute('aria-rowcount')).toBe('50001');
  });
});

describe('rows in an order', () => {
  test('each has a grip that says what it moves', () => {
    show(
      <OrderedList
        id="rules"
        rows={lines}
        keyOf={({ code }) => code}
        nameOf={({ code }) => code}
        onMove={jest.fn()}
      >
        {({ code }, at, grip) => (
          <p>
            {grip} {at + 1}. {code}
          </p>
        )}
      </OrderedList>,
    );
    expect(screen.getAllByRole('button').map((grip) => grip.getAttribute('aria-label'))).toEqual([
      'Move POT-10',
      'Move pot-2',
      'Move BOX-1',
    ]);
    expect(screen.getByText('2. pot-2')).toBeTruthy();
  });

  test.each([
    ['up', ['a', 'b', 'c'], 'c', 'a', ['c', 'a', 'b']],
    ['down', ['a', 'b', 'c'], 'a', 'c', ['b', 'a', 'c']],
    ['to the end', ['a', 'b', 'c'], 'a', undefined, ['b', 'c', 'a']],
    ['nowhere', ['a', 'b', 'c'], 'b', 'c', ['a', 'b', 'c']],
  ] as const)('a row moved %s loses none', (_name, rows, moved, before, wanted) => {
    expect(movedBefore<string>(rows, moved, before)).toEqual(wanted);
  });
});

describe('what is open, and what is shown', () => {
  const reported = jest.fn();
  const begin = (search: string) =>
    render(
      <NuqsTestingAdapter
        searchParams={search}
        onUrlUpdate={({ queryString, options }: UrlUpdateEvent) => reported(queryString, options.shallow)}
        hasMemory
      >
        <OpenPage />
      </NuqsTestingAdapter>,
    );
  beforeEach(() => reported.mockClear());

  test('are read from the address', () => {
    begin('?row=price&show=odd');
    expect(screen.getByRole('status').textContent).toBe('odd price');
    expect(screen.getByRole('button', { name: 'Odd' }).getAttribute('aria-pressed')).toBe('true');
  });

  test('what the address names that is none is as if nothing were named', () => {
    begin('?show=everything');
    expect(screen.getByRole('status').textContent).toBe('all ');
  });

  test('one closes as the other opens, without asking the server', async () => {
    begin('?row=price');
    await userEvent.click(screen.getByRole('button', { name: 'Colour' }));
    expect(screen.getByRole('status').textContent).toBe('all colour');
    await userEvent.click(screen.getByRole('button', { name: 'Colour' }));
    expect(screen.getByRole('status').textContent).toBe('all ');
    await userEvent.click(screen.getByRole('button', { name: 'Odd' }));
    expect(screen.getByRole('status').textContent).toBe('odd ');
    expect(reported.mock.calls.every(([, shallow]) => shallow === true)).toBe(true);
    expect(reported.mock.calls.at(-1)?.[0]).toBe('?show=odd');
  });
});

test('a bar shows even the smallest problem, inside itself', () => {
  const { container } = show(
    <Bar
      label="12,000 ready, 1 blocked"
      segments={[
        { share: 0.9999, kind: 'ready' },
        { share: 0.0001, kind: 'blocked' },
      ]}
    />,
  );
  expect(screen.getByRole('img', { name: '12,000 ready, 1 blocked' })).toBeTruthy();
  const bad = container.querySelector<HTMLElement>('i.blocked');
  expect(Number.parseFloat(bad?.style.width ?? '')).toBeGreaterThanOrEqual(2);
  expect(
    Number.parseFloat(bad?.style.left ?? '') + Number.parseFloat(bad?.style.width ?? ''),
  ).toBeLessThanOrEqual(100);
});

test.each([
  [{ filled: 228, failing: 0, missing: 0, empty: 0, total: 228 }, '228', false],
  [{ filled: 100, failing: 21, missing: 2, empty: 105, total: 228 }, '121', true],
  [{ filled: 0, failing: 0, missing: 5, empty: 223, total: 228 }, '0 of 5', true],
  [{ filled: 0, failing: 0, missing: 0, empty: 0, total: 0 }, '0', false],
])('coverage %j reads %s', (coverage, words, bad) => {
  const { container } = show(<CoverageBar coverage={coverage} />);
  const figure = container.querySelector('.number');
  expect(figure?.textContent).toBe(words);
  expect(figure?.classList.contains('tone-blocker')).toBe(bad);
});

describe('a picture', () => {
  test('of none is a quiet place', () => {
    show(<Picture file={undefined} name="Ridge pot" size={40} />);
    expect(screen.getByRole('img', { name: 'no picture of Ridge pot' }).tagName).toBe('SPAN');
  });

  test('that cannot be shown leaves one too, and the next is tried again', () => {
    const page = (file: string) => (
      <MantineProvider env="test">
        <Picture file={file} name="Ridge pot" size={40} />
      </MantineProvider>
    );
    const { rerender } = render(page('broken.jpg'));
    const picture = screen.getByRole('img', { name: 'Ridge pot' });
    expect(picture.getAttribute('src')).toBe('/pictures/broken.jpg');
    fireEvent.error(picture);
    expect(screen.getByRole('img', { name: 'the picture of Ridge pot cannot be shown' }).tagName).toBe(
      'SPAN',
    );
    rerender(page('another.jpg'));
    expect(screen.getByRole('img', { name: 'Ridge pot' }).tagName).toBe('IMG');
  });
});

test('a difference marks what went and what came, and can show one side alone', () => {
  const pieces = [
    { kind: 'same', text: 'Ridge ' },
    { kind: 'gone', text: 'pot' },
    { kind: 'new', text: 'bowl' },
  ] as const;
  const { container, rerender } = show(<Marked pieces={pieces} />);
  expect(container.querySelector('mark.gone')?.textContent).toBe('pot');
  expect(container.querySelector('mark.new')?.textContent).toBe('bowl');
  rerender(
    <MantineProvider env="test">
      <Marked pieces={pieces} only="after" />
    </MantineProvider>,
  );
  expect(container.textContent).toContain('Ridge bowl');
  expect(container.textContent).not.toContain('pot');
});

test('a count agrees with its word', () => {
  expect([counted(1, 'item'), counted(0, 'item'), counted(2, 'category', 'categories')]).toEqual([
    '1 item',
    '0 items',
    '2 categories',
  ]);
});
