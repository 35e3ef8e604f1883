import { memoizedByText } from '../../text/remembering';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';
import { phraseFinder } from './phrases';

interface Facts {
  unfinished: { found: string };
}

/** What programs and people put before a copy, in nine languages; common practice, no source. */
const copy =
  /^(?:copy of|kopie von|copie de|copia de|copia di|kopie van|kopia|cópia de|kopia av)(?: \S|[-:])|(?:[-–(\s]|^)(?:copy|kopie|copie|copia|kopia|cópia)\)?(?: ?\(?\d+\)?)?$/iu;
/** Articles that were made for a trial. */
const trial = phraseFinder([
  `test ?(?:product|item|article|listing)|(?:do not|don[’']t) (?:buy|order)|test-?(?:artikel|produkt)|nicht (?:kaufen|bestellen)|(?:article|produit) (?:de )?test|ne pas (?:acheter|commander)|(?:producto|artículo) de prueba|no comprar|(?:prodotto|articolo) (?:di )?(?:prova|test)|non acquistare|test-?product|niet (?:kopen|bestellen)|produkt testowy|nie kupować|(?:produto|artigo) de teste|não comprar|testvara|köp inte`,
]);
/** References to what stands elsewhere, and promises of a text to come. */
const elsewhere =
  /^\W*(?:see (?:above|below|picture|image|title|parent)|as above|text (?:follows|to follow)|coming soon|siehe (?:oben|unten|bild|titel)|wie oben|text folgt|folgt|voir (?:ci-dessus|ci-dessous|photo|titre)|idem|à venir|ver (?:arriba|abajo|foto|título)|próximamente|vedi (?:sopra|sotto|foto|titolo)|in arrivo|zie (?:boven|onder|foto|titel)|volgt|patrz (?:wyżej|niżej|zdjęcie)|jak wyżej|wkrótce|ver (?:acima|abaixo)|em breve|se (?:ovan|nedan|bild)|kommer snart)\W*$/iu;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title' && field.role !== 'description') return undefined;
  const ofTitle = field.role === 'title';
  const foundIn = (text: string): string | undefined => {
    const plain = text.trim();
    return (
      (ofTitle && /cop|kop|cóp/i.test(plain) ? copy.exec(plain)?.[0] : undefined) ??
      trial(plain) ??
      (plain.length <= 60 ? elsewhere.exec(plain)?.[0] : undefined)
    );
  };
  const look = ofTitle ? foundIn : memoizedByText(foundIn);
  return onEach((text, report) => {
    const found = look(text);
    if (found !== undefined) report('unfinished', 'risk', field.code, { found: found.trim() });
  });
};

/** A text that nobody finished: a copy, a trial, “see above”. */
export const unfinished: CheckModule<Facts> = {
  issues: {
    unfinished: {
      about: 'A copy, a test item, or a reference to another text.',
      severity: ['risk'],
      on: 'titles and descriptions',
      example: { found: 'Copy of' },
      title: (label) => `${label} is unfinished`,
      words: ({ found }, label) => `${label} looks unfinished: “${found}”`,
    },
  },
  onValue,
};
