import { memoizedByText } from '../../text/remembering';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';
import { phraseFinder } from './phrases';

interface Facts {
  dealerNote: { found: string };
}

/** Notes that suppliers write for dealers, in nine languages; common practice, no source. */
const notes = [
  '(?:trade|dealer|wholesale|reseller|b2b)s? (?:only|price|prices|customers only)',
  'not for (?:resale|retail)',
  'minimum order quantity|packing unit|case pack of',
  'nur für (?:händler|wiederverkäufer|gewerbliche kunden)',
  'händler(?:preis|einkaufspreis|info|hinweis)',
  'nicht für (?:den )?(?:wiederverkauf|endkunden)',
  'verpackungseinheit|mindestabnahme',
  'réservé aux (?:professionnels|revendeurs)',
  'prix (?:revendeur|professionnel)',
  '(?:solo|sólo) para (?:distribuidores|profesionales|mayoristas)',
  'precio (?:para distribuidores|de distribuidor|mayorista)',
  'solo per (?:rivenditori|professionisti)',
  'prezzo (?:rivenditore|rivenditori)',
  'alleen voor (?:dealers|wederverkopers)',
  'dealerprijs|inkoopprijs|besteleenheid',
  'tylko dla (?:hurtowników|sprzedawców|firm)',
  'cena (?:hurtowa|dla dealerów)',
  'apenas para (?:revendedores|profissionais)',
  'preço (?:de revenda|para revendedores)',
  'endast för återförsäljare',
  'återförsäljarpris',
];
const find = phraseFinder(notes);

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  const look = field.role === 'title' ? find : memoizedByText(find);
  return onEach((text, report) => {
    const found = look(text);
    if (found !== undefined) report('dealerNote', 'risk', field.code, { found });
  });
};

/** What a supplier tells dealers and no shopper is to read. */
export const dealerNote: CheckModule<Facts> = {
  issues: {
    dealerNote: {
      about: 'A text with a note for dealers.',
      severity: ['risk'],
      on: 'titles and descriptions',
      example: { found: 'trade only' },
      title: (label) => `${label} has a note for dealers`,
      words: ({ found }, label) => `${label} has a note for dealers: “${found}”`,
    },
  },
  onValue,
};
