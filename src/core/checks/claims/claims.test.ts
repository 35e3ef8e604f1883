import { clean, stated, type Values } from '../../../../tests/support/itemIssues';

// One thing wrong each, and beside it what looks alike and is right. As a careful person would say; common practice of channels.
const cases: readonly (readonly [wanted: string, language: string, Values])[] = [
  [
    'claim description',
    'en',
    { description: 'A herbal tea that cures insomnia, picked by hand and dried in the shade of old barns.' },
  ],
  [
    'claim description',
    'de',
    {
      description:
        'Ein Tee, der gegen Migräne hilft? Er lindert Migräne und wird von Hand gepflückt und getrocknet.',
    },
  ],
  [
    'claim description',
    'fr',
    {
      description:
        'Une tisane cueillie à la main qui soulage la migraine et que l’on boit le soir au coin du feu.',
    },
  ],
  [
    'claim description',
    'es',
    {
      description:
        'Una infusión recogida a mano que alivia el insomnio y que se toma por la noche junto al fuego.',
    },
  ],
  [
    'claim description',
    'it',
    {
      description:
        'Una tisana raccolta a mano che previene le infezioni e si beve la sera vicino al camino acceso.',
    },
  ],
  [
    'claim description',
    'nl',
    {
      description:
        'Een met de hand geplukte thee die slapeloosheid bestrijdt? Hij verlicht migraine en smaakt zacht.',
    },
  ],
  [
    'claim description',
    'pl',
    {
      description:
        'Herbata zbierana ręcznie, która leczy bezsenność i którą pije się wieczorem przy kominku w domu.',
    },
  ],
  [
    'claim description',
    'pt',
    {
      description:
        'Uma infusão colhida à mão que alivia a enxaqueca e que se bebe à noite junto da lareira acesa.',
    },
  ],
  [
    'claim description',
    'sv',
    {
      description:
        'Ett handplockat te som lindrar migrän och som man dricker om kvällen framför den öppna elden.',
    },
  ],
  [
    '',
    'en',
    {
      description:
        'A herbal tea for the evening, picked by hand. Ask a doctor if you cannot sleep for more than a week.',
    },
  ],
  [
    '',
    'de',
    {
      description:
        'Ein Tee für den Abend, von Hand gepflückt. Wer unter Migräne leidet, fragt besser zuerst den Arzt.',
    },
  ],
  [
    'claim description',
    'en',
    {
      description:
        'A spray for the kitchen that kills 99.9 % of bacteria on boards, knives and the inside of the fridge.',
    },
  ],
  [
    'claim description',
    'de',
    {
      description:
        'Ein Spray für die Küche: tötet 99,9 % der Bakterien auf Brettern, Messern und im Kühlschrank ab.',
    },
  ],
  [
    '',
    'en',
    {
      description:
        'A brush for boards. Wash it in hot water, as bacteria like what stays between the bristles too long.',
    },
  ],
  ['claim name', 'en', { name: 'The best in the world camp stool' }],
  ['claim name', 'de', { name: 'Weltbester Klapphocker aus Esche' }],
  ['claim name', 'es', { name: 'El mejor del mundo, taburete plegable' }],
  ['claim name', 'fr', { name: 'Tabouret pliant, le meilleur du monde' }],
  ['claim name', 'it', { name: 'Il migliore al mondo: sgabello pieghevole' }],
  ['', 'en', { name: 'Best man’s camp stool' }],
  ['', 'de', { name: 'Klapphocker Weltreise' }],
  ['claim name', 'en', { name: 'Camp stool with lifetime warranty' }],
  ['claim name', 'de', { name: 'Hocker mit lebenslanger Garantie'.replace('lebenslanger', 'lebenslange') }],
  ['', 'en', { name: 'Camp stool, two-year warranty card' }],
  ['dealerNote name', 'en', { name: 'Folding camp stool, trade only' }],
  ['dealerNote name', 'de', { name: 'Klapphocker, nur für Händler' }],
  ['dealerNote name', 'fr', { name: 'Tabouret, réservé aux professionnels' }],
  ['dealerNote name', 'es', { name: 'Taburete, solo para distribuidores' }],
  ['dealerNote name', 'it', { name: 'Sgabello, solo per rivenditori' }],
  ['', 'en', { name: 'Stool for trade fairs' }],
  ['', 'de', { name: 'Marktstand für Händler aus Esche' }],
  ['unfinished name', 'en', { name: 'Copy of Folding camp stool' }],
  ['unfinished name', 'de', { name: 'Klapphocker mit Stoffsitz - Kopie' }],
  ['unfinished name', 'fr', { name: 'Copie de Tabouret pliant' }],
  ['unfinished name', 'es', { name: 'Copia de Taburete plegable' }],
  ['unfinished name', 'it', { name: 'Sgabello pieghevole (copia 2)' }],
  ['unfinished name', 'en', { name: 'Test product, do not buy' }],
  ['unfinished name', 'de', { name: 'Testartikel Hocker' }],
  ['unfinished name', 'nl', { name: 'Kruk testproduct' }],
  ['unfinished description', 'en', { description: 'See above' }],
  ['unfinished description', 'de', { description: 'siehe Titel' }],
  ['unfinished description', 'pl', { description: 'jak wyżej' }],
  ['', 'en', { name: 'Copybook with ruled pages' }],
  ['', 'de', { name: 'Kopierpapier, 500 Blatt' }],
  ['', 'en', { name: 'Test tube vase' }],
  [
    '',
    'en',
    {
      description:
        'For a picture of the folded stool see above the second drawing; the seat is of waxed canvas.',
    },
  ],
  ['skuInTitle name', 'en', { name: 'Folding camp stool T-100' }],
  ['', 'en', { name: 'Folding camp stool HN-4410' }],
  ['', 'en', { name: 'Folding camp stool T-1001' }],
  ['testLink url', 'en', { url: 'https://quillmoss.example/' }],
  ['testLink url', 'en', { url: 'https://staging.quillmoss.example/camp-stool' }],
  ['testLink url', 'en', { url: 'https://dev2.quillmoss.example/camp-stool' }],
  ['', 'en', { url: 'https://quillmoss.example/?item=4410' }],
  ['', 'en', { url: 'https://test-of-time.example/camp-stool' }],
  ['placeholderPicture image', 'en', { image: ['https://quillmoss.example/img/no-image.png'] }],
  ['placeholderPicture image', 'en', { image: ['https://quillmoss.example/platzhalter.jpg'] }],
  ['', 'en', { image: ['https://quillmoss.example/img/blanket-1.jpg'] }],
];

test.each(cases)('%s in %s: %j', (wanted, language, change) => {
  const found = stated({ ...clean, ...change }, { language }).filter(
    (issue) => !issue.startsWith('language'),
  );
  expect(found).toEqual(wanted === '' ? [] : [wanted]);
});
