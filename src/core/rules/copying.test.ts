import { trialField, trialSheet } from '../../../tests/support/sheets';
import type { Sheet } from '../channels/sheet';
import { copiedRule, nextRuleId } from './copying';
import { type Rule, ruleSchema } from './rule';

const here = trialSheet([
  trialField('ref', 'text', { role: 'id' }),
  trialField('headline', 'text', { role: 'title' }),
  trialField('price', 'money', { role: 'price' }),
  trialField('colour', 'text', { label: 'Colour' }),
  trialField('safety_note', 'text', { label: 'Safety note' }),
]);
const there: Sheet = {
  ...trialSheet([
    trialField('codigo', 'text', { role: 'id' }),
    trialField('titulo', 'text', { role: 'title' }),
    trialField('precio', 'money', { role: 'price' }),
    trialField('paint', 'text', { label: 'colour' }),
    trialField('headline', 'number'),
  ]),
  code: 'elsewhere',
};
const rule = (when: unknown, ...then: unknown[]): Rule =>
  ruleSchema.parse({ id: 'rule-3', name: 'A rule', when, then });
const always = { attribute: 'name', is: 'filled' };

describe('a rule on another channel', () => {
  it('speaks of the fields that have the same job there, or the same name', () => {
    const given = rule(
      {
        all: [
          { field: 'price', is: 'moreThan', value: '20' },
          {
            any: [
              { field: 'headline', is: 'sameAs', value: 'colour' },
              { not: { attribute: 'brand', is: 'empty' } },
            ],
          },
        ],
      },
      { do: 'replace', field: 'headline', find: 'Pot', with: 'Topf' },
      { do: 'copyWord', field: 'colour', from: 'headline', words: { moss: 'green' } },
      { do: 'review', reason: 'dear' },
    );
    expect(copiedRule(given, here, there)).toEqual({
      rule: {
        ...given,
        when: {
          all: [
            { field: 'precio', is: 'moreThan', value: '20' },
            {
              any: [
                { field: 'titulo', is: 'sameAs', value: 'paint' },
                { not: { attribute: 'brand', is: 'empty' } },
              ],
            },
          ],
        },
        then: [
          { do: 'replace', field: 'titulo', find: 'Pot', with: 'Topf' },
          { do: 'copyWord', field: 'paint', from: 'titulo', words: { moss: 'green' } },
          { do: 'review', reason: 'dear' },
        ],
      },
    });
  });

  it('names what is not there, and is not half copied', () => {
    const given = rule(always, { do: 'clear', field: 'safety_note' }, { do: 'clear', field: 'headline' });
    expect(copiedRule(given, here, there)).toEqual({ missing: ['Safety note'] });
    expect(copiedRule(rule({ under: ['12'] }, { do: 'keep' }), here, there)).toEqual({
      missing: ['categories of the channel’s tree'],
    });
    const looksUp = rule(always, {
      do: 'steps',
      field: 'headline',
      steps: [{ step: 'lookUp', table: 'colours' }],
    });
    expect(copiedRule(looksUp, here, there)).toEqual({ missing: ['the value mapping colours'] });
  });

  it('is the same on the same channel, places, tables and all', () => {
    const given = rule({ under: ['12'] }, { do: 'clear', field: 'safety_note' });
    expect(copiedRule(given, here, here)).toEqual({ rule: given });
  });

  it('gets an id that no rule there ever had', () => {
    expect(nextRuleId([])).toBe('rule-1');
    expect(
      nextRuleId([{ ...rule(always, { do: 'keep' }), id: 'rule-7' }, rule(always, { do: 'keep' })]),
    ).toBe('rule-8');
    expect(nextRuleId([{ ...rule(always, { do: 'keep' }), id: 'cheap' }])).toBe('rule-1');
  });
});
