/** Words of catalogs with the choices that a person gave them, in every field of the six sheets that has such choices. */
import { readFileSync } from 'node:fs';
import { readChannel } from '../../src/core/channels/bundle';
import { suggestChoices } from '../../src/core/values/suggestions';
import type { English } from '../../src/core/words/forms';

/** What each field takes, and the codes of its choices where they are not the label's own words. */
const fields: readonly {
  readonly channel: string;
  readonly field: string;
  readonly kind: string;
  readonly codes?: Readonly<Record<string, string>>;
}[] = [
  { channel: 'lanternry', field: 'colour', kind: 'colour', codes: { many: 'multicolour' } },
  { channel: 'orrin-bazaar', field: 'colour', kind: 'colour' },
  { channel: 'tessel-boards', field: 'colour_family', kind: 'colour' },
  {
    channel: 'plazuela-norte',
    field: 'color',
    kind: 'colour',
    codes: {
      black: 'negro',
      white: 'blanco',
      grey: 'gris',
      brown: 'marrón',
      red: 'rojo',
      orange: 'naranja',
      yellow: 'amarillo',
      green: 'verde',
      turquoise: 'turquesa',
      blue: 'azul',
      purple: 'morado',
      pink: 'rosa',
      many: 'multicolor',
    },
  },
  { channel: 'lanternry', field: 'condition', kind: 'condition' },
  { channel: 'orrin-bazaar', field: 'goods_condition', kind: 'condition', codes: { refurbished: 'renewed' } },
  {
    channel: 'own-shop',
    field: 'condition',
    kind: 'condition',
    codes: { new: 'NewCondition', used: 'UsedCondition', refurbished: 'RefurbishedCondition' },
  },
  {
    channel: 'lanternry',
    field: 'stock',
    kind: 'stock',
    codes: { in: 'available', out: 'sold_out', pre: 'pre_order', back: 'back_order' },
  },
  {
    channel: 'own-shop',
    field: 'availability',
    kind: 'stock',
    codes: { in: 'InStock', out: 'OutOfStock', pre: 'PreOrder', back: 'BackOrder' },
  },
  {
    channel: 'plazuela-norte',
    field: 'disponibilidad',
    kind: 'stock',
    codes: { in: 'disponible', out: 'agotado', pre: 'reserva' },
  },
  {
    channel: 'lanternry',
    field: 'gender',
    kind: 'gender',
    codes: { women: 'female', men: 'male', all: 'any' },
  },
  { channel: 'orrin-bazaar', field: 'department', kind: 'gender' },
  {
    channel: 'plazuela-norte',
    field: 'genero',
    kind: 'gender',
    codes: { women: 'mujer', men: 'hombre', all: 'unisex' },
  },
  {
    channel: 'lanternry',
    field: 'binding',
    kind: 'binding',
    codes: { hard: 'hardcover', soft: 'paperback', digital: 'ebook' },
  },
  {
    channel: 'plazuela-norte',
    field: 'encuadernacion',
    kind: 'binding',
    codes: { hard: 'dura', soft: 'blanda' },
  },
];
/** What is right where a field has no choice of its own for a colour. */
const instead: Readonly<Record<string, readonly string[]>> = {
  turquoise: ['blue', 'green'],
  copper: ['brown', 'orange'],
  gold: ['yellow'],
  silver: ['grey'],
  transparent: ['white'],
  refurbished: ['used'],
};

export interface ChoiceResult {
  readonly channel: string;
  readonly value: string;
  readonly rank: number;
  readonly confidence: number;
  readonly found: string;
}

/** What is suggested for every label of a file in every field that takes such words. */
export function choiceResults(labelled: 'held' | 'tuning', english?: English): ChoiceResult[] {
  const labels = readFileSync(`tests/data/labels/choices-${labelled}.tsv`, 'utf8').trimEnd().split('\n');
  return fields.flatMap(({ channel, field: code, kind, codes = {} }) => {
    const file = (name: string) => readFileSync(`src/channels/${channel}/${name}`, 'utf8');
    const { sheet } = readChannel(file('requirements.json'), file('taxonomy.csv'));
    const field = sheet.fields.find((one) => one.code === code);
    const known = new Set(field?.choices?.map((choice) => choice.code));
    const of = (meaning: string) => codes[meaning] ?? meaning;
    return labels.flatMap((line) => {
      const [value = '', whose = '', meanings = ''] = line.split('\t');
      if (whose !== kind) return [];
      const wanted = meanings.split(',');
      const own = wanted.map(of).filter((one) => known.has(one));
      const right = own.length > 0 ? own : wanted.flatMap((one) => instead[one] ?? []).map(of);
      if (!right.some((one) => known.has(one))) return [];
      const found = suggestChoices(field ?? {}, value, english ? { english } : {});
      return [
        {
          channel,
          value,
          rank: found.findIndex(({ choice }) => right.includes(choice)),
          confidence: found[0]?.score ?? 0,
          found: found[0]?.choice ?? '',
        },
      ];
    });
  });
}
