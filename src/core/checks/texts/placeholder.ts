import { fold } from '../../text/folding';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  placeholder: { found: string };
}

/** What people write where a field must be filled and they have nothing to say; nine languages, common practice. */
const nothing = new Set(
  'n a,na,none,no,nil,null,unknown,unbranded,no brand,nobrand,generic,does not apply,not applicable,tbd,tba,test,xxx,default,keine,keine marke,ohne marke,markenlos,unbekannt,nicht zutreffend,sin marca,genérico,desconocido,no aplica,sans marque,inconnu,générique,non applicable,senza marca,sconosciuto,generico,non applicabile,geen,geen merk,onbekend,merkloos,bez marki,brak,nieznany,nie dotyczy,sem marca,desconhecido,não se aplica,utan märke,okänd,ej tillämpligt'
    .split(',')
    .map(fold),
);

/** What designers fill pages with, and what editors leave to be written. */
const filler =
  /\blorem ipsum\b|\b(?:insert|enter) (?:text|description|title) here\b|\bhier text einfügen\b|\{\{?\s*[\w.]+\s*\}?\}|\[(?:brand|name|title|product|size|color|colour)\]/i;

/** In capitals only: "todo" is a word of Spanish. */
const toDo = /\b(?:TODO|TBD|FIXME)\b:?/;

const onValue: ValueCheckMaker<Facts> = (field) => {
  const isText = field.role === 'title' || field.role === 'description';
  if (field.role !== 'brand' && field.role !== 'mpn' && !isText) return undefined;
  if (isText)
    return onEach((text, report) => {
      const found =
        text.length < 40 && nothing.has(fold(text)) ? text : (filler.exec(text) ?? toDo.exec(text))?.[0];
      if (found !== undefined) report('placeholder', 'risk', field.code, { found });
    });
  return onEach((text, report) => {
    const plain = fold(text);
    if (nothing.has(plain) || plain === '' || /^[0-]+$/.test(text.trim()))
      report('placeholder', 'risk', field.code, { found: text });
  });
};

/** A brand or a part number that says nothing: worse than none, since it claims to be one. */
export const placeholder: CheckModule<Facts> = {
  issues: {
    placeholder: {
      about: 'A placeholder value, such as n/a.',
      severity: ['risk'],
      on: 'brands, part numbers, titles and descriptions',
      example: { found: 'n/a' },
      title: (label) => `${label} is a placeholder`,
      words: ({ found }, label) => `${label} “${found}” is a placeholder; leave it empty`,
    },
  },
  onValue,
};
