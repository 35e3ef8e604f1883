import {
  after,
  changesBetween,
  channelStatusOf,
  dueOf,
  emptyEntry,
  type LedgerEntry,
  type LedgerEvent,
  toPut,
  type Wanted,
} from './ledger';

/** What happens, in a word or two: sent with a digest, answered, stopped, lost; the number is the submission's. */
const events = {
  'send A': { event: 'sent', submission: 1, digest: 'a' },
  'send B': { event: 'sent', submission: 2, digest: 'b' },
  'take back': { event: 'removalSent', submission: 3 },
  '1 accepted': { event: 'accepted', submission: 1 },
  '2 accepted': { event: 'accepted', submission: 2 },
  '3 accepted': { event: 'accepted', submission: 3 },
  '1 refused': { event: 'refused', submission: 1, problems: [{ code: 'X', field: null, text: 'no' }] },
  '2 refused': { event: 'refused', submission: 2, problems: [] },
  '3 refused': { event: 'refused', submission: 3, problems: [] },
  '1 drafted': { event: 'drafted', submission: 1 },
  '2 drafted': { event: 'drafted', submission: 2 },
  '1 in review': { event: 'inReview', submission: 1 },
  '1 failed': { event: 'failed', submission: 1 },
  '2 failed': { event: 'failed', submission: 2 },
  '3 failed': { event: 'failed', submission: 3 },
  '1 lost': { event: 'lost', submission: 1 },
  '2 lost': { event: 'lost', submission: 2 },
} as const satisfies Record<string, LedgerEvent>;
type Happening = keyof typeof events;

/** What each submission had sent of the listing. */
const sentBy: Record<number, { digest: string | undefined }> = {
  1: { digest: 'a' },
  2: { digest: 'b' },
  3: { digest: undefined },
};
const history = (...happened: Happening[]): LedgerEntry =>
  happened.reduce<LedgerEntry>((entry, name) => {
    const what = events[name];
    return after(entry, what, sentBy[what.submission]);
  }, emptyEntry);

const readyA: Wanted = { state: 'ready', digest: 'a' };
const readyB: Wanted = { state: 'ready', digest: 'b' };
const blocked: Wanted = { state: 'blocked' };
const gone: Wanted = { state: 'gone' };

/** The table of transitions: what happened, and what is to be done then for A, for B, blocked (left, withdrawn) and gone. */
test.each<[Happening[], string, string, string, string, string]>([
  [[], 'new', 'new', 'none', 'none', 'none'],
  [['send A'], 'waiting', 'waiting', 'waiting', 'waiting', 'waiting'],
  [['send A', '1 accepted'], 'unchanged', 'changed', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 refused'], 'refused', 'mended', 'none', 'none', 'none'],
  [['send A', '1 failed'], 'new', 'new', 'none', 'none', 'none'],
  [['send A', '1 lost'], 'again', 'again', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 in review'], 'waiting', 'waiting', 'waiting', 'waiting', 'waiting'],
  [['send A', '1 in review', '1 accepted'], 'unchanged', 'changed', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 accepted', 'send B', '2 accepted'], 'changed', 'unchanged', 'left', 'withdraw', 'withdraw'],
  // A refusal leaves what was accepted before; what was refused is not sent again as it was.
  [['send A', '1 accepted', 'send B', '2 refused'], 'unchanged', 'refused', 'left', 'withdraw', 'withdraw'],
  // A failure forgets nothing.
  [['send A', '1 accepted', 'send B', '2 failed'], 'unchanged', 'changed', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 accepted', 'send B', '2 lost'], 'again', 'again', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 accepted', 'take back', '3 accepted'], 'new', 'new', 'none', 'none', 'none'],
  [['send A', '1 accepted', 'take back', '3 failed'], 'unchanged', 'changed', 'left', 'withdraw', 'withdraw'],
  // What was not taken back is still there.
  [
    ['send A', '1 accepted', 'take back', '3 refused'],
    'unchanged',
    'changed',
    'left',
    'withdraw',
    'withdraw',
  ],
  // A draft is what nobody sees: it is there, waits for a person, and goes where it is not meant any more.
  [['send A', '1 drafted'], 'drafted', 'new', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 accepted', 'send B', '2 drafted'], 'unchanged', 'drafted', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 drafted', 'send B', '2 accepted'], 'changed', 'unchanged', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 drafted', 'send B', '2 refused'], 'mended', 'refused', 'none', 'none', 'none'],
  [['send A', '1 drafted', 'send B', '2 failed'], 'drafted', 'new', 'left', 'withdraw', 'withdraw'],
  [['send A', '1 drafted', 'take back', '3 accepted'], 'new', 'new', 'none', 'none', 'none'],
  // Two submissions overtake each other: the later one has the last word, whoever answers last.
  [['send A', 'send B', '1 accepted'], 'waiting', 'waiting', 'waiting', 'waiting', 'waiting'],
  [['send A', 'send B', '2 accepted', '1 accepted'], 'changed', 'unchanged', 'left', 'withdraw', 'withdraw'],
  [['send A', 'send B', '2 accepted', '1 refused'], 'changed', 'unchanged', 'left', 'withdraw', 'withdraw'],
  [['send A', 'send B', '1 accepted', '2 failed'], 'unchanged', 'changed', 'left', 'withdraw', 'withdraw'],
  [['send A', 'send B', '1 refused', '2 accepted'], 'changed', 'unchanged', 'left', 'withdraw', 'withdraw'],
])('after %j', (happened, a, b, left, withdrawn, archived) => {
  const entry = history(...happened);
  expect([
    dueOf(entry, readyA, 'leave'),
    dueOf(entry, readyB, 'leave'),
    dueOf(entry, blocked, 'leave'),
    dueOf(entry, blocked, 'withdraw'),
    dueOf(entry, gone, 'leave'),
  ]).toEqual([a, b, left, withdrawn, archived]);
});

test('an answer that comes twice changes nothing more', () => {
  const once = history('send A', '1 accepted', 'send B', '2 refused');
  expect(after(once, events['2 refused'], sentBy[2])).toEqual(once);
});

test('taken back and gone are told apart from never there', () => {
  expect(history().withdrawn).toBe(false);
  const back = history('send A', '1 accepted', 'take back', '3 accepted');
  expect(back).toMatchObject({ withdrawn: true, held: undefined });
  // It comes back.
  const again = after(after(back, { event: 'sent', submission: 4, digest: 'a' }), {
    event: 'accepted',
    submission: 4,
  });
  expect(again).toMatchObject({ withdrawn: false, held: { digest: 'a', submission: 4 } });
});

test('remarks and the channel’s own number are kept, a number that is not told again too', () => {
  const remark = { code: 'R', field: 'text', text: 'short' };
  const first = after(history('send A'), {
    event: 'accepted',
    submission: 1,
    problems: [remark],
    number: 'N1',
  });
  expect(first).toMatchObject({ problems: [remark], number: 'N1' });
  expect(after(after(first, events['send B']), events['2 accepted'])).toMatchObject({
    problems: [],
    number: 'N1',
  });
});

test('what differs between what the channel has and what it will have', () => {
  expect(
    changesBetween({ price: '1', tags: ['a', 'b'], old: 'x' }, { price: '2', tags: ['a', 'b'], fresh: 'y' }),
  ).toEqual([
    { field: 'price', before: '1', after: '2' },
    { field: 'old', before: 'x', after: undefined },
    { field: 'fresh', before: undefined, after: 'y' },
  ]);
});

test('what the channel would take off is sent again in time, where there is nothing else to do about it', () => {
  const held = after(after(emptyEntry, { event: 'sent', submission: 4, digest: 'A' }), {
    event: 'accepted',
    submission: 4,
  });
  const lapsed = (last: number) => ({ held: last, draft: 0 });
  const ready = { state: 'ready', digest: 'A' } as const;
  expect(dueOf(held, ready, 'leave')).toBe('unchanged');
  expect(dueOf(held, ready, 'leave', lapsed(3))).toBe('unchanged');
  expect(dueOf(held, ready, 'leave', lapsed(4))).toBe('renew');
  expect(toPut.has('renew')).toBe(true);
  // All else comes before it.
  expect(dueOf(held, { state: 'ready', digest: 'B' }, 'leave', lapsed(4))).toBe('changed');
  expect(dueOf(held, { state: 'blocked' }, 'leave', lapsed(4))).toBe('left');
  expect(dueOf(held, { state: 'gone' }, 'leave', lapsed(4))).toBe('withdraw');
  expect(dueOf(after(held, { event: 'sent', submission: 9, digest: 'A' }), ready, 'leave', lapsed(4))).toBe(
    'waiting',
  );
  expect(dueOf(undefined, ready, 'leave', lapsed(4))).toBe('new');
});

test('a draft that has expired is not there any more', () => {
  const draft = history('send A', '1 drafted');
  expect(dueOf(draft, readyA, 'leave', { held: 5, draft: 0 })).toBe('drafted');
  expect(dueOf(draft, readyA, 'leave', { held: 0, draft: 1 })).toBe('new');
  expect(dueOf(draft, gone, 'leave', { held: 0, draft: 1 })).toBe('none');
  // None is sent by itself.
  expect(toPut.has('drafted')).toBe(false);
});

test.each<[Happening[], string[]]>([
  [[], ['new']],
  [['send A'], ['new']],
  [['send A', '1 accepted'], ['there']],
  [['send A', '1 refused'], ['refused']],
  // What is on its way counts when it is answered.
  [['send A', '1 accepted', 'send B'], ['there']],
  [
    ['send A', '1 accepted', 'send B', '2 refused'],
    ['there', 'refused'],
  ],
  [['send A', '1 accepted', 'take back'], ['there']],
  [['send A', '1 accepted', 'take back', '3 accepted'], ['back']],
  [['send A', '1 lost'], ['new']],
])('after %j a listing stands at the channel as %j', (happened, expected) => {
  expect(channelStatusOf(history(...happened))).toEqual(expected);
});
