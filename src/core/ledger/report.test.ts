import fc from 'fast-check';
import { reportSchema } from '../channels/delivery';
import { at, readReport } from './report';

const usual = reportSchema.parse({});

test('the usual shape', () => {
  expect(
    readReport(
      {
        entries: [
          { ref: 'A', result: 'accepted', number: 7 },
          { ref: 'B', result: 'Refused', problems: [{ code: 'X1', field: 'price', text: 'too high' }] },
        ],
      },
      usual,
      [],
    ),
  ).toEqual({
    ready: true,
    unread: 0,
    answers: [
      { key: 'A', result: 'accepted', problems: [], number: '7' },
      {
        key: 'B',
        result: 'refused',
        problems: [{ code: 'X1', field: 'price', text: 'too high' }],
        number: undefined,
      },
    ],
  });
});

test('a shape given as data, with nested places and several words for one result', () => {
  const shape = reportSchema.parse({
    state: 'progress',
    working: 'busy, queued',
    entries: 'data.rows',
    key: 'item.key',
    result: 'verdict',
    accepted: 'yes, live',
    refused: 'no',
    problems: 'notes',
    code: 'nr',
    field: 'where',
    text: 'says',
  });
  expect(readReport({ progress: 'queued' }, shape, [])).toEqual({ ready: false });
  expect(
    readReport(
      {
        progress: 'ready',
        data: {
          rows: [
            { item: { key: 'A' }, verdict: 'live' },
            { item: { key: 'B' }, verdict: 'no', notes: [{ nr: 7, where: 'x', says: 'hm' }] },
          ],
        },
      },
      shape,
      [{ code: '7', field: 'colour', words: 'Not one of our colours' }],
    ),
  ).toMatchObject({
    answers: [
      { key: 'A', result: 'accepted' },
      // A known code has our words at our field; the channel's own text stands for unknown ones.
      { key: 'B', problems: [{ code: '7', field: 'colour', text: 'Not one of our colours' }] },
    ],
  });
});

test('what cannot be read changes nothing and is counted', () => {
  expect(
    readReport({ entries: [{ ref: 'A', result: 'perhaps' }, { result: 'accepted' }, 7, null] }, usual, []),
  ).toEqual({ ready: true, answers: [], unread: 4 });
});

test('a list that is not where the sheet says is refused with the place', () => {
  expect(() => readReport({ listings: [] }, usual, [])).toThrow('no list of results at entries');
  expect(() => readReport('<html>', { ...usual, entries: '' }, [])).toThrow('its root');
});

test('whatever a channel answers, reading it ends in answers or in a refusal', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (one, two) => {
      try {
        const report = readReport(
          { entries: [one, two, { ref: 'A', result: 'accepted', problems: one }] },
          usual,
          [],
        );
        if (report.ready) expect(report.answers.length + report.unread).toBe(3);
      } catch (error) {
        expect(String(error)).toContain('list of answers');
      }
    }),
  );
});

test('a path never reads what an object inherits', () => {
  expect(at({}, 'constructor.name')).toBeUndefined();
  expect(at({ a: { b: 1 } }, 'a.b')).toBe(1);
});
