import iconv from 'iconv-lite';
import { decodeBytes, detectEncoding, type Encoding, encodings } from './encodings';

/** A few lines of a supplier's file in each language, with what stands beside words there. */
const texts: Readonly<Record<string, string>> = {
  German: 'Artikel;Größe;Preis\nTöpfe für Kräuter;groß;24,90 €\nÜbertopf, weiß;Ø 14 cm;9,90 €\n',
  French:
    'Référence;Désignation;Prix\nA1;Pot à épices émaillé, « sauge »;12,50 €\nA2;Étagère en chêne;89 €\n',
  Spanish: 'Código;Descripción;Precio\nA1;Maceta pequeña, año 2027;12,50 €\nA2;Baúl de jardín;89 €\n',
  Portuguese: 'Código;Descrição;Preço\nA1;Vaso de cerâmica, coração;12,50 €\nA2;Caixa para chá;8 €\n',
  Italian: 'Codice;Descrizione;Quantità\nA1;Vaso blu, così com’è;5\nA2;Scatola per tè;2\n',
  Swedish: 'Artikel;Färg;Mått\nA1;Kruka, grön, småblommig;14 × 14 cm\nA2;Hylla på vägg;60 cm\n',
  Polish: 'Nazwa;Kolor;Ilość\nDoniczka szkliwiona;żółty;5\nŁawka ogrodowa, dębowa;brązowy;źródło\n',
  Czech: 'Název;Barva;Množství\nKvětináč glazovaný;žlutý;5\nDřevěná police;hnědá, světlá;2\n',
  Hungarian: 'Név;Szín;Mennyiség\nVirágcserép, zöld;fűzöld;5\nKönyvespolc;sötétbarna, őszi;2\n',
  Russian: 'Название;Цвет;Цена\nГоршок глазурованный;зелёный;500\nПолка деревянная;коричневый;1200\n',
  English: 'Name,Size,Price\n“Ridge” pot – glazed,5½ in,£12.50\nBook box™,10″,£8\n',
  ASCII: 'sku,name,price\nA1,Pot,1.50\n',
};

const cases = Object.entries(texts).flatMap(([language, text]) =>
  encodings.flatMap((encoding): [string, Encoding, string, Buffer][] => {
    const bytes = iconv.encode(text, encoding, { addBOM: false });
    // Only where the encoding has all its signs.
    return iconv.decode(bytes, encoding) === text ? [[language, encoding, text, bytes]] : [];
  }),
);

test.each(cases)('%s in %s is read as it was written', (_language, _encoding, text, bytes) => {
  expect(decodeBytes(bytes, detectEncoding(bytes))).toBe(text);
});

test.each(cases.filter(([language, encoding]) => language !== 'ASCII' && !encoding.startsWith('utf')))(
  '%s in %s is read as it was written, also where one cell was damaged before',
  (_language, _encoding, text, bytes) => {
    const damaged = Buffer.concat([
      bytes,
      Buffer.from('A9;Kr\u00e4uter, Stra\u00dfe \u2013 5 \u00b0C;1\n', 'utf8'),
    ]);
    expect(decodeBytes(damaged, detectEncoding(damaged)).startsWith(text)).toBe(true);
  },
);

test('every encoding is met', () => {
  expect(new Set(cases.map(([, encoding]) => encoding))).toEqual(new Set(encodings));
  expect(cases.length).toBeGreaterThan(60);
});

describe('marks, declarations and zeros', () => {
  test.each([
    ['UTF-8 with its mark', Buffer.from('\ufeffName;Größe\n'), 'utf-8'],
    [
      'UTF-16 with its mark',
      Buffer.concat([Buffer.from([0xff, 0xfe]), iconv.encode('Größe', 'utf-16le')]),
      'utf-16le',
    ],
    [
      'UTF-16 the other way',
      Buffer.concat([Buffer.from([0xfe, 0xff]), iconv.encode('Größe', 'utf-16be')]),
      'utf-16be',
    ],
    [
      'XML that says what it is',
      iconv.encode('<?xml version="1.0" encoding="ISO-8859-2"?><a>żółty</a>', 'iso-8859-2'),
      'iso-8859-2',
    ],
    [
      'XML that says Latin-1',
      iconv.encode('<?xml version="1.0" encoding="latin1"?><a>Größe €</a>', 'windows-1252'),
      'windows-1252',
    ],
    [
      'XML that says Latin-1 and is UTF-8',
      Buffer.from('<?xml version="1.0" encoding="ISO-8859-1"?><a>Größe</a>'),
      'utf-8',
    ],
    ['nothing at all', Buffer.alloc(0), 'utf-8'],
  ] as const)('%s', (_name, bytes, encoding) => {
    expect(detectEncoding(bytes)).toBe(encoding);
  });

  test('XML that says UTF-8 and is not is read by its letters', () => {
    const bytes = iconv.encode('<?xml version="1.0" encoding="UTF-8"?><a>Größe, weiß</a>', 'windows-1252');
    expect(decodeBytes(bytes, detectEncoding(bytes))).toContain('Größe, weiß');
  });

  test('a sign cut in two at the end of the sample does not count', () => {
    const bytes = Buffer.from('Größe und Maß, weiß');
    expect(detectEncoding(bytes.subarray(0, bytes.length - 1))).toBe('utf-8');
  });
});
