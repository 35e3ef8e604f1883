import { fieldWithRole, type Sheet } from '../channels/sheet';
import type { Rule } from './rule';

/** Rules that many begin with, written for a channel's own fields; those it has no field for are left out. */
export function commonRules(sheet: Sheet): Rule[] {
  const code = (role: Parameters<typeof fieldWithRole>[1]) => fieldWithRole(sheet, role)?.code;
  const [title, price, availability] = [code('title'), code('price'), code('availability')];
  const created: (Omit<Rule, 'on'> | undefined)[] = [
    title && {
      id: 'common-no-talk',
      name: 'No prices in titles',
      when: {
        any: ['best price', 'free shipping', 'sale', '!!'].map((value) => ({
          field: title,
          is: 'contains',
          value,
        })),
      },
      then: [
        {
          do: 'steps',
          field: title,
          steps: [{ step: 'takeOut', words: 'best price, free shipping, sale, !!' }, { step: 'trim' }],
        },
      ],
    },
    price && {
      id: 'common-clearance',
      name: 'Clearance: lower price for the last pieces',
      when: {
        all: [
          { attribute: 'inventoryLevel', is: 'lessThan', value: '5' },
          { attribute: 'inventoryLevel', is: 'moreThan', value: '0' },
        ],
      },
      then: [
        { do: 'steps', field: price, steps: [{ step: 'adjust', percent: -20, amount: 0, ending: '0.90' }] },
      ],
    },
    {
      id: 'common-sold-out',
      name: 'Exclude sold-out items',
      when: { attribute: 'inventoryLevel', is: 'equals', value: '0' },
      then: [{ do: 'leaveOut', reason: 'sold out' }],
    },
    availability && {
      id: 'common-before-it-comes',
      name: 'Exclude until available',
      when: { attribute: 'availabilityStarts', is: 'after', value: 'today' },
      then: [{ do: 'leaveOut', reason: 'not there yet' }],
    },
    title && {
      id: 'common-short',
      name: 'Short titles',
      when: { field: title, is: 'longerThan', value: '80' },
      then: [{ do: 'steps', field: title, steps: [{ step: 'shorten', most: 80, measure: 'characters' }] }],
    },
  ].map((one) => (one ? (one as Omit<Rule, 'on'>) : undefined));
  return created.flatMap((one) => (one ? [{ ...one, on: true }] : []));
}
