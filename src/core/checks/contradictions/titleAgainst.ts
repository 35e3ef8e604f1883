import { convert, readMeasure } from '../../measures/units';
import { fold } from '../../text/folding';
import { memoizedByText } from '../../text/remembering';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onTitle, type Read, reader } from '../item';

const about = { color: 'colour', size: 'size', gender: 'gender', volume: 'capacity' } as const;
type About = keyof typeof about;

interface Facts {
  titleAgainst: { found: string; value: string; of: About };
}

/** Colours by their plain names in nine languages, folded; common practice, no source. Words that name other things too are left out. */
const colours = new Map(
  Object.entries({
    black:
      'black schwarz schwarze schwarzer schwarzes noir noire negro negra nero nera zwart zwarte czarny czarna czarne preto preta svart svarta',
    white:
      'white weiss weisse weisser weisses blanc blanche blanco blanca bianco bianca wit witte bialy biala biale branco branca vit vita',
    red: 'red rot rote roter rotes rouge rojo roja rosso rossa rood rode czerwony czerwona czerwone vermelho vermelha rod roda',
    blue: 'blue blau blaue blauer blaues bleu bleue azul blu blauw blauwe niebieski niebieska niebieskie bla blaa',
    green: 'green grun grune gruner grunes vert verte verde groen groene zielony zielona zielone gron grona',
    yellow:
      'yellow gelb gelbe gelber gelbes jaune amarillo amarilla giallo gialla geel gele zolty zolta zolte amarelo amarela gul gula',
    grey: 'grey gray grau graue grauer graues gris grise grigio grigia grijs grijze szary szara szare cinza cinzento cinzenta gra graa',
    brown:
      'brown braun braune brauner braunes brun brune marron marrone bruin bruine brazowy brazowa brazowe castanho castanha bruna',
    purple: 'purple lila violett morado morada paars paarse fioletowy fioletowa roxo roxa',
    pink: 'pink rosa rosado rosada roze rozowy rozowa rozowe',
  }).flatMap(([colour, names]) => names.split(' ').map((name) => [name, colour] as const)),
);
/** The plain colours that a text of a colour names; empty where it names none, or more than one. */
function colourIn(text: string): string | undefined {
  const found = new Set(
    fold(text)
      .split(' ')
      .flatMap((word) => colours.get(word) ?? []),
  );
  return found.size === 1 ? [...found][0] : undefined;
}

/** What a size is called before it, in nine languages. */
const sizeName =
  /^(?:size|gr|grosse|groesse|taille|pointure|talla|taglia|maat|rozmiar|tamanho|storlek|stl)\s+(\S{1,6})$/;

const genders = new Map(
  Object.entries({
    male: "men mens men's herren herrenschuh homme hommes hombre hombres uomo uomini heren mannen meski meskie meska homem homens herr man male masculino masculin maschile mannlich",
    female:
      "women womens women's ladies damen femme femmes mujer mujeres donna donne dames vrouwen damski damskie damska mulher mulheres dam woman female femenino feminin femminile weiblich",
  }).flatMap(([gender, names]) => names.split(' ').map((name) => [fold(name), gender] as const)),
);
/** Words of attributes that say more than a gender in a title: “man-made”. */
const notInTitles: ReadonlySet<string> = new Set(['man', 'woman']);
function genderIn(text: string, ofTitle = false): string | undefined {
  const words = fold(text)
    .split(' ')
    .filter((word) => !ofTitle || !notInTitles.has(word));
  const found = new Set(words.flatMap((word) => genders.get(word) ?? []));
  return found.size === 1 ? [...found][0] : undefined;
}

/** The parts of a title between commas, bars and dashes, by which its variants differ. */
const partsOf = (title: string): string[] =>
  title
    .split(/\s*(?:[,;|()·/]|\s[-–—]\s)\s*/)
    .map((part) => part.trim())
    .filter((part) => part !== '' && part.length <= 30);

const MAX_TITLE = 300;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const [color, size, gender, volume] = ['color', 'size', 'gender', 'volume'].map((code) =>
    reader(context, code),
  ) as [Read, Read, Read, Read];
  // Variants share these values; their titles are all different.
  const plainOf = memoizedByText((text) => (text === '' ? undefined : colourIn(text)));
  const plainPart = memoizedByText(fold);
  const genderOf = memoizedByText((text) => (text === '' ? undefined : genderIn(text)));
  const millilitresOf = memoizedByText((text) => {
    const measure = text === '' ? undefined : readMeasure(text);
    const amount = measure && convert(measure, 'ml');
    return amount === undefined || !(Number(amount) > 0) ? undefined : Number(amount);
  });
  return onTitle(context, (row, title, report, field) => {
    const [ownColor, ownSize, ownGender, ownVolume] = [color(row), size(row), gender(row), volume(row)];
    if (title.length > MAX_TITLE) return;
    const [plainColor, is] = [plainOf(ownColor), genderOf(ownGender)];
    const holds = millilitresOf(ownVolume);
    if (plainColor === undefined && ownSize === '' && is === undefined && holds === undefined) return;
    const tell = (of: About, found: string, value: string) =>
      report('titleAgainst', 'risk', field, { found, value, of });
    const parts = partsOf(title).map((part) => [part, plainPart(part)] as const);
    // A part of nothing but a colour names the variant's; “white oak” is wood.
    const named = plainColor && parts.find(([, plain]) => colours.has(plain));
    if (named && colours.get(named[1]) !== plainColor) tell('color', named[0], ownColor);
    const sized = ownSize === '' ? undefined : parts.map(([, plain]) => sizeName.exec(plain)).find(Boolean);
    if (
      sized &&
      !fold(ownSize)
        .split(' ')
        .includes(sized[1] ?? '')
    )
      tell('size', sized[0], ownSize);
    const says = is === undefined ? undefined : genderIn(title, true);
    if (is !== undefined && says !== undefined && is !== says) tell('gender', title, ownGender);
    if (holds === undefined) return;
    const [only, ...more] = parts.flatMap(([part]) => {
      const amount = /^\d/.test(part) ? millilitresOf(part) : undefined;
      return amount === undefined ? [] : [{ part, amount }];
    });
    if (only && more.length === 0 && Math.abs(only.amount - holds) > holds * 0.02)
      tell('volume', only.part, ownVolume);
  });
}

/** A title that names another colour, size, gender or capacity than the item has: one of them belongs to a sibling. */
export const titleAgainst: CheckModule<Facts> = {
  issues: {
    titleAgainst: {
      about: 'The title names another colour, size, gender or capacity than the item has.',
      severity: ['risk'],
      on: 'titles',
      example: { found: 'red', value: 'blue', of: 'color' },
      title: (label) => `${label} contradicts the item`,
      words: ({ found, value, of }, label) => `${label} says “${found}”, but the ${about[of]} is “${value}”`,
    },
  },
  onListing,
};
