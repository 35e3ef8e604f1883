/**
 * Goods of many kinds with nothing wrong, as careful shops describe them, in six languages; made up for the tests. Each stands for
 * several variants, so that there are more than two hundred.
 */
export interface CleanGoods {
  readonly language: string;
  readonly values: Readonly<Record<string, string | readonly string[]>>;
}

/** language | name | description | brand | price | further values */
const goods = `
en|Cast iron skillet with two spouts|A heavy pan for searing and baking, seasoned twice with flax oil. It holds its heat well and works on every hob, and in the oven up to 260 degrees.|Brandle|64.00|weight=2.3 kg;width=31 cm;countryOfOrigin=PL;customsCode=7323.91
en|Merino hiking socks, cushioned heel|Knitted from merino wool with a cushioned heel and a flat toe seam. They keep feet dry on long days and can be washed at thirty degrees.|Fellwick|19.50|weight=80 g;countryOfOrigin=PT
en|Wooden train set with figure-of-eight track|Thirty pieces of beech with a bridge, a station and two engines. All edges are rounded and the colours are water-based.|Ollobee|49.00|ageRange=3 years and up;warning=Small parts.;countryOfOrigin=CZ
en|USB-C charging cable, braided|A braided cable that charges at up to 100 W and carries data at 10 Gbit/s. Tested for ten thousand bends.|Verrin|14.90|weight=45 g
en|Cold-pressed rapeseed oil|Pressed from whole seeds of one harvest and filled unrefined, with a nutty taste. Keep it dark, and use it within eight weeks once opened.|Quayle Mill|9.80|countryOfOrigin=DK;customsCode=1514.11
en|Road bike inner tube, 28 inch|A butyl tube for narrow tyres with a removable valve core. It fits rims from 18 to 25 mm wide.|Tarrow|6.50|weight=105 g
en|The quiet harbour, a novel|When the ferry stops running, four neighbours must decide who leaves the island and who looks after the light.|Sprigwell Press|16.99|gtin=9783161484100;bookFormat=Paperback;author=Oriel Pennack;category=Books
en|Ceramic knife sharpener with angle guide|Two ceramic rods set at twenty degrees bring back the edge of kitchen knives in a few strokes. The base is weighted and does not slip.|Brandle|27.00|weight=0.4 kg
de|Gusseiserner Bräter mit Deckel|Ein schwerer Bräter aus emailliertem Gusseisen für Schmorgerichte und Brot. Er passt auf alle Herde, auch auf Induktion, und geht in den Ofen.|Brandle|129.00|weight=5.1 kg;width=29 cm;countryOfOrigin=Frankreich
de|Wanderhose mit abnehmbaren Beinen|Leichte Hose aus einem Gewebe, das schnell trocknet. Die Beine lassen sich über dem Knie abnehmen, die Taschen haben Reißverschlüsse.|Fellwick|89.95|weight=320 g;countryOfOrigin=DE
de|Holzpuzzle Bauernhof mit 24 Teilen|Ein Puzzle aus Birke mit dicken Teilen für kleine Hände. Es kommt in einem Rahmen, in dem die Teile nicht verloren gehen.|Ollobee|18.00|ageRange=3 Jahre und älter
de|Apfelessig naturtrüb|Aus ganzen Äpfeln von Streuobstwiesen vergoren und nicht gefiltert. Er eignet sich für Salate, zum Einlegen und für Schorlen.|Quayle Mill|5.40|countryOfOrigin=AT
de|Schreibtischlampe mit Klemmfuß|Eine Lampe mit drei Gelenken, deren Licht sich in fünf Stufen dimmen lässt. Die Klemme hält an Platten bis sechs Zentimeter.|Verrin|74.00|plug=Type C;weight=1.2 kg
de|Fahrradschloss mit Zahlencode|Ein Kettenschloss aus gehärtetem Stahl in einem Mantel aus Gewebe. Der Code hat vier Stellen und lässt sich neu setzen.|Tarrow|39.90|weight=1.1 kg
de|Das Licht im Moor, Erzählungen|Neun Geschichten aus einem Dorf, in dem jeder jeden kennt und doch keiner alles weiß. Mit Zeichnungen der Autorin.|Sprigwell Press|22.00|gtin=9783161484100;bookFormat=Hardcover;author=Pia Marrowby;category=Bücher
es|Sartén de hierro con mango largo|Una sartén pesada para dorar y hornear, curada con aceite de lino. Conserva bien el calor y sirve para todo tipo de cocinas.|Brandle|48.00|weight=2.1 kg;countryOfOrigin=España
es|Camiseta de lana merina para correr|Tejida con lana merina muy fina, abriga cuando hace frío y se seca pronto después del esfuerzo. Se lava a treinta grados.|Fellwick|59.00|weight=150 g
es|Aceite de oliva virgen extra de una finca|Prensado en frío el mismo día de la cosecha, con aroma a hierba y a almendra verde. Conviene guardarlo lejos de la luz.|Quayle Mill|13.50|countryOfOrigin=ES;customsCode=1509.20
es|Mochila plegable de veinte litros|Una mochila ligera que se guarda en su propio bolsillo. Las costuras están selladas y las correas tienen acolchado.|Tarrow|35.00|weight=240 g;width=28 cm
es|Cuaderno de hojas punteadas|Papel grueso que no deja pasar la tinta, con cubierta de tela y una cinta para marcar la página. Tiene ciento sesenta hojas.|Ollen|12.00|weight=310 g
es|Juego de seis vasos de vidrio soplado|Cada vaso se sopla a mano, por eso ninguno es igual a otro. Aguantan bebidas calientes y se lavan con cuidado a mano.|Harnley|42.00|weight=1.6 kg;countryOfOrigin=MX
fr|Cocotte en fonte émaillée avec couvercle|Une cocotte lourde pour les plats mijotés et le pain. Elle convient à tous les feux, même à induction, et passe au four.|Brandle|139.00|weight=4.8 kg;countryOfOrigin=France
fr|Pull en laine d’agneau à col rond|Tricoté en laine d’agneau douce, avec des coudes renforcés. Il se lave à la main et sèche à plat.|Fellwick|95.00|weight=420 g
fr|Savon noir à l’huile d’olive|Un savon liquide pour les sols, le linge et les vitres, sans parfum ni colorant. Quelques gouttes suffisent dans un seau d’eau.|Quayle Mill|8.90|countryOfOrigin=FR
fr|Lampe de lecture à pince|Une petite lampe qui se fixe au livre ou à la tête de lit. La lumière est chaude et la batterie tient trente heures.|Verrin|24.50|weight=70 g
fr|Jeu de cartes des oiseaux du jardin|Cinquante-deux cartes illustrées pour apprendre à reconnaître les oiseaux. La règle tient en une page et se joue dès cinq ans.|Ollobee|15.00|ageRange=5 ans et plus
fr|Sécateur à lame forgée|Un sécateur pour les branches vertes, avec une lame forgée que l’on peut remplacer. Les poignées sont en frêne huilé.|Harnley|38.00|weight=260 g;countryOfOrigin=CH
it|Padella in ferro con manico lungo|Una padella pesante per rosolare e cuocere al forno, trattata con olio di lino. Mantiene bene il calore su tutti i piani di cottura.|Brandle|52.00|weight=2.2 kg;countryOfOrigin=Italia
it|Maglione di lana con collo alto|Lavorato a maglia con lana di pecora, caldo e resistente. Si lava a mano e si asciuga disteso su un piano.|Fellwick|99.00|weight=510 g
it|Miele di castagno dell’Appennino|Un miele scuro dal gusto deciso, raccolto in estate e mai scaldato. Sta bene con i formaggi stagionati e con il pane tostato.|Quayle Mill|11.00|countryOfOrigin=IT;customsCode=0409.00
it|Zaino da montagna con schienale rigido|Uno zaino per gite di un giorno, con schienale rigido e cintura imbottita. La tela respinge la pioggia e le cuciture sono doppie.|Tarrow|119.00|weight=1.3 kg
it|Caffettiera in acciaio per sei tazze|Una caffettiera che funziona anche sui piani a induzione. Il manico resta freddo e la guarnizione si trova facilmente.|Harnley|36.00|weight=0.7 kg
nl|Gietijzeren koekenpan met schenktuit|Een zware pan om in te bakken en te braden, ingebrand met lijnolie. Hij houdt de warmte goed vast en past op elk fornuis.|Brandle|58.00|weight=2.4 kg;countryOfOrigin=Nederland
nl|Wollen sjaal met franje|Geweven van zachte lamswol, warm en toch licht. De sjaal wordt met de hand gewassen en plat te drogen gelegd.|Fellwick|45.00|weight=190 g
nl|Appelstroop zonder toegevoegde suiker|Langzaam ingekookt van hele appels en peren uit de boomgaard. Lekker op brood en in stoofschotels met ui.|Quayle Mill|4.60|countryOfOrigin=BE
nl|Fietstas van waxdoek|Een tas voor aan de bagagedrager die de regen buiten houdt. De haken passen op bijna alle dragers en de riem is van leer.|Tarrow|79.00|weight=0.9 kg
nl|Houten blokken in een linnen zak|Vijftig blokken van beuken in zes kleuren, met ronde hoeken en verf op waterbasis. Ze worden in een linnen zak geleverd.|Ollobee|34.00|ageRange=3 jaar en ouder
nl|Leeslamp met draaibare arm|Een lamp met een arm die in elke stand blijft staan. Het licht is warm en de schakelaar zit op de voet.|Verrin|69.00|plug=Type F;weight=1.5 kg
pt|Frigideira de ferro com cabo comprido|Uma frigideira pesada para alourar e levar ao forno, curada com óleo de linhaça. Guarda bem o calor em qualquer fogão.|Brandle|46.00|weight=2.0 kg;countryOfOrigin=Portugal
sv|Stekpanna i gjutjärn med hällpip|En tung panna för stekning och bakning, inbränd med linolja. Den håller värmen länge och passar på alla spisar.|Brandle|62.00|weight=2.2 kg;countryOfOrigin=Sverige
pl|Patelnia żeliwna z długą rączką|Ciężka patelnia do smażenia i pieczenia, wypalona olejem lnianym. Długo trzyma ciepło i nadaje się na każdą kuchenkę.|Brandle|55.00|weight=2.3 kg;countryOfOrigin=Polska
`;

const digits = (at: number): string => {
  const twelve = `9520001${String(10_000 + at)}`;
  const sum = [...twelve].reduce((total, digit, n) => total + Number(digit) * (n % 2 ? 3 : 1), 0);
  return `${twelve}${(10 - (sum % 10)) % 10}`;
};

/** Colours and sizes, as variants say them; in no language of their own. */
const variants = ['001', '002', '003', '004', '005'];

export const cleanGoods: readonly CleanGoods[] = goods
  .trim()
  .split('\n')
  .flatMap((line, at) => {
    const [language = '', name = '', description = '', brand = '', price = '', further = ''] =
      line.split('|');
    const more = Object.fromEntries(
      further
        .split(';')
        .filter(Boolean)
        .map((pair) => pair.split('=')),
    );
    return variants.map((variant, n) => ({
      language,
      values: {
        sku: `G${at}-${variant}`,
        name: `${name}, ${variant}`,
        description,
        brand,
        mpn: `${brand.slice(0, 2).toUpperCase()}-${at}${variant}`,
        gtin: digits(at * 5 + n),
        price: (Number(price) + n).toFixed(2),
        availability: n === 4 ? 'OutOfStock' : 'InStock',
        inventoryLevel: n === 4 ? '0' : String(n + 3),
        url: `https://quillmoss.example/goods/${at}-${variant}`,
        image: [1, 2, 3].map((shot) => `https://quillmoss.example/pictures/${at}-${variant}-${shot}.jpg`),
        highlights: [name.split(' ').slice(0, 2).join(' '), `${variant}`],
        ...more,
      },
    }));
  });
