import { fold } from '../text/folding';

/**
 * Words that choices are made of, in English, German, Spanish, French, Italian, Dutch, Polish, Portuguese and Swedish:
 * colours, states, people. A line is one meaning; what stands after `;` are shades and kinds, which give way to a word
 * from before it ("slate blue" is blue). From memory and common practice, no source.
 */
const meanings = `
green|grün|verde|vert|verte|verdi|groen|groene|zielony|zielona|zielone|grön|grönt|gröna;olive|oliv|oliva|oliwka|oliwkowy|emerald|smaragd|smeraldo|esmeralda|émeraude|smaragdgrün|szmaragdowy|mint|menta|menthe|miętowy|hortelã|lime|limette|lima|citron vert|sage|salbei|salvia|sauge|szałwia|moss|moos|musgo|mousse|muschio|mos|fern|farn|pistachio|pistazie|pistacho|pistacchio|khaki|kaki|caqui|forest|tanne|jade|avocado|apfel|botella|bouteille|flaske|flaschen|ivy|efeu|reseda
blue|blau|azul|azules|bleu|bleue|blu|azzurro|blauw|blauwe|niebieski|niebieska|niebieskie|błękitny|blå|blått|blåa;navy|marine|marino|marinha|marin|marineblau|marineblauw|granatowy|granatowa|azur|azure|celeste|céleste|celadon|sky|himmel|cielo|ciel|cobalt|kobalt|cobalto|kobaltowy|indigo|índigo|denim|jeans|royal|königsblau|saphir|sapphire|zafiro|zaffiro|midnight|nacht|notte|nuit|noche|ocean|ozean|océano|océan|chabrowy|pervenche|periwinkle|tinte|ultramarin|ultramarine|lapis|atlantik|baltic
red|rot|rojo|roja|rouge|rosso|rossa|rood|rode|czerwony|czerwona|czerwone|vermelho|vermelha|encarnado|röd|rött|röda;crimson|scarlet|scharlach|escarlata|écarlate|bordeaux|bordeauxrood|bordowy|burgundy|burgunder|burdeos|borgoña|bordô|weinrot|vinrött|vino|granate|grenat|granata|cherry|kirsch|cereza|cerise|ciliegia|ruby|rubin|rubí|rubis|brick|ziegel|ladrillo|brique|mattone|ceglany|terracotta|terrakotta|terracota|rust|rost|óxido|rouille|ruggine|karmin|carmín|carmine|tomato|tomate|mohn|poppy|coquelicot
yellow|gelb|amarillo|amarilla|jaune|giallo|gialla|geel|gele|żółty|żółta|żółte|amarelo|amarela|gul|gult|gula;mustard|senf|mostaza|moutarde|senape|mosterd|musztardowy|mostarda|senapsgul|lemon|zitrone|limón|citron|limone|citroen|cytrynowy|limão|ocker|ochre|ocre|ocra|saffron|safran|azafrán|honey|honig|miel|sun|sonnen|maize|mais|canary|kanarien|curry|kurkuma
black|schwarz|negro|negra|noir|noire|nero|nera|zwart|zwarte|czarny|czarna|czarne|preto|preta|svart|svarta;ebony|ebenholz|ébano|ébène|jet|tiefschwarz|onyx|ónix|raven|rabe|lakritz|ink|coal
white|weiß|weiss|blanco|blanca|blanc|blanche|bianco|bianca|wit|witte|biały|biała|białe|branco|branca|vit|vitt|vita;ivory|elfenbein|marfil|ivoire|avorio|ivoor|kość słoniowa|marfim|elfenben|off white|offwhite|blanc cassé|blanco roto|gebroken wit|naturweiß|alabaster|snow|schnee|nieve|neige|neve|pearl|perle|perla|perlweiß|chalk|kreide|polarweiß
grey|gray|grau|gris|grises|grigio|grigia|grijs|grijze|szary|szara|szare|popielaty|cinza|cinzento|cinzenta|grå|grått|gråa;anthracite|anthrazit|antracita|antracite|antraciet|antracyt|antracytowy|antracit|slate|schiefer|pizarra|ardoise|ardesia|leisteen|ardósia|skiffer|graphite|graphit|grafito|grafite|grafit|grafiet|charcoal|kohle|carbón|charbon|carbone|carvão|ash|asche|ceniza|cendre|stone|stein|piedra|pierre|steen|smoke|rauch|humo|fumée|fumo|zement|concrete|beton|cemento|zinc|zink|taupe|dove|mouse|maus|lead|blei|rock|granite|granit
brown|braun|marrón|marrones|castaño|pardo|marron|brun|brune|marrone|bruin|bruine|brązowy|brązowa|brązowe|castanho|marrom|brunt|bruna;chocolate|schokolade|schoko|chocolat|cioccolato|chocolade|czekoladowy|choklad|mahogany|mahagoni|caoba|acajou|mogano|walnut|nussbaum|nogal|noyer|noce|noten|nuss|orzech|orzechowy|oak|eiche|roble|chêne|rovere|eik|dąb|dębowy|carvalho|ek|coffee|kaffee|café|caffè|koffie|kawowy|kaffe|cognac|konjak|koniak|coñac|caramel|karamell|caramelo|camel|chestnut|kastanie|castaña|châtaigne|kasztanowy|umber|umbra|sepia|tobacco|tabak|mocca|mokka|hazel|haselnuss|wenge|teak|zimt|cinnamon|canela|cannelle|bark|rinde|leather brown
beige|beżowy|beżowa|beżowe|bege|beigefarben|beigea|crudo;sand|arena|sable|sabbia|zand|piaskowy|areia|cream|creme|crema|crème|panna|kremowy|kräm|gräddvit|oat|hafer|avena|avoine|natur|natural|naturel|naturale|naturell|naturalny|ecru|écru|ecrù|champagne|champán|champagner|linen|leinen|lino|lin|vanilla|vanille|vainilla|nude|straw|stroh|paja|paille|wheat|weizen|kitt|eggshell|sesame|biscuit|almond|mandel|almendra|dune|düne
orange|naranja|arancione|oranje|pomarańczowy|pomarańczowa|pomarańczowe|laranja;apricot|aprikose|albaricoque|abricot|albicocca|abrikoos|morelowy|damasco|aprikos|pumpkin|kürbis|calabaza|citrouille|zucca|dynia|coral|koralle|corail|corallo|koraal|koralowy|korall|mandarine|mandarina|tangerine|peach|pfirsich|melocotón|pêche|pesca|perzik|brzoskwiniowy|pêssego|amber|bernstein|ámbar|ambre|carrot|karotte
pink|rosa|rosado|rosada|rose|rosé|roze|różowy|różowa|różowe|cor de rosa|rosafarben;fuchsia|fucsia|fuksja|magenta|salmon|lachs|salmón|saumon|salmone|zalm|łososiowy|salmão|lax|blush|altrosa|pudrowy|powder|puder|raspberry|himbeere|frambuesa|framboise|lampone|hot pink|cyclam|ciclamino|flamingo|rosewood|altrosé|bubblegum|malve
purple|violet|violette|violett|lila|morado|morada|púrpura|violeta|pourpre|viola|paars|paarse|fioletowy|fioletowa|fioletowe|roxo|roxa|lilla;plum|pflaume|ciruela|prune|prugna|pruim|śliwka|śliwkowy|ameixa|plommon|lavender|lavendel|lavanda|lavande|lawendowy|alfazema|aubergine|berenjena|melanzana|oberżyna|berinjela|mauve|malva|malve lila|flieder|lilac|glicine|amethyst|amatista|améthyste|grape|traube|uva|heather|heide|blackberry|brombeere|mora
turquoise|türkis|turquesa|turchese|turkoois|turkusowy|turkusowa|turkos;teal|petrol|petroleum|petrolio|pétrole|petróleo|morski|aqua|acqua|aguamarina|aquamarin|aquamarine|lagoon|lagune|sea green|seafoam|mint turquoise|kaczka|canard|enten
gold|golden|oro|dorado|dorada|or|doré|dorée|dorato|dorata|goud|gouden|złoty|złota|złote|dourado|dourada|guld|guldfärgad;brass|messing|latón|laiton|ottone|mosiądz|mosiężny|latão|mässing|champagne gold
silver|silber|silbern|plata|plateado|plateada|argent|argenté|argentée|argento|argentato|zilver|zilveren|srebrny|srebrna|srebrne|prata|prateado|prateada|silverfärgad;chrome|chrom|cromo|cromado|chromé|chroom|krom|nickel|níquel|steel|edelstahl|stahl|acero|acier|acciaio|staal|stal|aço|stål|aluminium|aluminio|platin|platinum|pewter|zinn
copper|kupfer|cobre|cuivre|cuivré|rame|koper|miedziany|miedź|koppar;bronze|bronce|bronzo|brons|brąz metal|rose gold|rosegold|roségold|oro rosa|or rose|rostig|cortén
multicoloured|multicolored|multicolour|multicolor|many colours|many colors|multi|bunt|mehrfarbig|vielfarbig|multicolore|colorido|varios colores|varios|multicolorido|várias cores|plusieurs couleurs|veelkleurig|meerkleurig|bont|wielokolorowy|kolorowy|różnokolorowy|flerfärgad|mångfärgad|mixed|gemischt|mixto|mixte|misto|gemengd|mieszany|assorted|sortiert|surtido|assorti|assortito|assorterad|blandade|various|verschiedene|rainbow|regenbogen|arcoíris|arc en ciel|arcobaleno|colourful
transparent|clear|klar|durchsichtig|farblos|transparente|trasparente|transparant|doorzichtig|kleurloos|przezroczysty|bezbarwny|genomskinlig|incolore|incoloro|crystal
new|neu|neuf|neuve|nuevo|nueva|nuovo|nuova|nieuw|nieuwe|nowy|nowa|nowe|novo|nova|ny|nytt|nya|brand new|neuwertig|fabrikneu|unused|ungebraucht|unbenutzt|ongebruikt|nieużywany|oanvänd|inutilizado|newcondition|new with tags|neu mit etikett|sealed|originalverpackt|ovp|mint condition|neuware|ungeöffnet|sin usar|sin estrenar|a estrenar|novinho|jamais utilisé
used|gebraucht|usado|usada|occasion|d occasion|usato|usata|gebruikt|tweedehands|używany|używana|używane|begagnad|begagnat|usagé|segunda mano|de segunda mano|segunda mão|em segunda mão|seconde main|de seconde main|seconda mano|di seconda mano|second hand|secondhand|pre owned|preowned|z drugiej ręki|andra hand|usedcondition|vintage|worn|getragen|gut erhalten|good condition|guter zustand|sehr gut|acceptable|like new used
refurbished|renewed|überholt|generalüberholt|aufbereitet|wiederaufbereitet|refurbished wie neu|reacondicionado|reacondicionada|restaurado|reconditionné|reconditionnée|remis à neuf|ricondizionato|ricondizionata|rigenerato|gereviseerd|opgeknapt|odnowiony|odnawiany|recondicionado|remodelado|renoverad|rekonditionerad|refurbishedcondition|wie neu|like new|as new|como nuevo|como nueva|comme neuf|comme neuve|come nuovo|als nieuw|jak nowy|como novo|som ny|remanufactured|factory refurbished|certified refurbished
in stock|available|available now|auf lager|vorrätig|lieferbar|sofort lieferbar|verfügbar|sofort verfügbar|ab lager|lagernd|disponible|en stock|en existencias|hay existencias|en magasin|disponible immédiatement|disponibile|in magazzino|disponibile subito|op voorraad|voorradig|leverbaar|direct leverbaar|beschikbaar|dostępny|dostępna|dostępne|w magazynie|na stanie|od ręki|em stock|em estoque|disponível|i lager|finns i lager|tillgänglig|instock|ready to ship|versandfertig|ships today|limited availability|nur noch wenige|on hand|now
out of stock|sold out|unavailable|not available|ausverkauft|nicht vorrätig|nicht lieferbar|nicht verfügbar|derzeit nicht lieferbar|vergriffen|agotado|agotada|sin stock|no disponible|sin existencias|épuisé|épuisée|rupture de stock|en rupture|en rupture de stock|indisponible|non disponible|esaurito|esaurita|non disponibile|uitverkocht|niet op voorraad|niet leverbaar|niet beschikbaar|wyprzedany|niedostępny|niedostępna|brak|brak w magazynie|esgotado|esgotada|indisponível|fora de estoque|sem stock|slut|slutsåld|slut i lager|ej i lager|ej tillgänglig|outofstock|oos|paused
pre order|preorder|pre sale|presale|vorbestellbar|vorbestellung|vorbestellen|erscheint demnächst|reserva|en reserva|preventa|bajo reserva|précommande|en précommande|à paraître|preordine|in preordine|prenotabile|in prenotazione|pre bestelling|voorbestelling|te bestellen vooraf|przedsprzedaż|w przedsprzedaży|zapowiedź|pré venda|pré encomenda|em pré venda|förhandsbokning|förbeställning|kan förbeställas|coming soon|soon|demnächst|prochainement|bientôt|próximamente|em breve|kommer snart|binnenkort|wkrótce|prossimamente
back order|backorder|on backorder|on order|nachbestellt|wird nachbestellt|auf bestellung|im zulauf|bestellbar|bajo pedido|por encargo|bajo encargo|sur commande|en réapprovisionnement|réassort en cours|su ordinazione|in arrivo|ordinabile|nabestelling|in bestelling|op bestelling|na zamówienie|zamówiony|por encomenda|sob encomenda|restnoterad|beställningsvara|på väg|tillfälligt slut
discontinued|eingestellt|auslaufartikel|nicht mehr lieferbar|descatalogado|arrêté|fuori produzione|uit productie|uit assortiment|wycofany|descontinuado|utgått
women|woman|female|damen|dame|frauen|frau|mujer|mujeres|señora|femme|femmes|donna|donne|dames|vrouw|vrouwen|kobieta|kobiety|damski|damska|damskie|dla kobiet|mulher|mulheres|feminino|senhora|dam|damer|kvinna|kvinnor|ladies|lady|weiblich|womens|femenino|féminin|femminile
men|man|male|herren|herr|männer|mann|hombre|hombres|caballero|homme|hommes|uomo|uomini|heren|mannen|mężczyzna|mężczyźni|męski|męska|męskie|dla mężczyzn|homem|homens|masculino|senhor|herr|herrar|män|gents|gentlemen|männlich|mens|masculin|maschile
unisex|any|anyone|everyone|all|both|alle|jeder|unisexe|uniseks|universal|todos|tous|tutti|iedereen|wszyscy|alla|damen und herren|herren und damen|men and women|women and men|mixte adulte|hombre y mujer|homme et femme|uomo donna|neutral
girls|girl|mädchen|niña|niñas|fille|filles|bambina|bambine|meisje|meisjes|dziewczynka|dziewczynki|dziewczęcy|menina|meninas|flicka|flickor
boys|boy|jungen|junge|jungs|niño varón|garçon|garçons|bambino maschio|jongen|jongens|chłopiec|chłopcy|chłopięcy|menino|meninos|pojke|pojkar
adult|adults|erwachsene|erwachsener|adulto|adultos|adulta|adulte|adultes|adulti|volwassene|volwassenen|dorosły|dorośli|dla dorosłych|vuxen|vuxna|grown up|grown ups
child|children|kid|kids|kinder|kind|niño|niños|infantil|infantiles|enfant|enfants|bambino|bambini|ragazzi|kinderen|dziecko|dzieci|dziecięcy|dla dzieci|criança|crianças|barn|junior|youth|jugend|juvenil|ado
baby|infant|infants|säugling|säuglinge|babys|bebé|bebés|bébé|bébés|neonato|neonati|bebê|bebês|niemowlę|niemowlęta|dla niemowląt|spädbarn|newborn|neugeborene|nourrisson|recién nacido|toddler
hardcover|hardback|hard cover|hard back|case bound|gebunden|gebundene ausgabe|hardcover buch|fester einband|tapa dura|cartoné|relié|reliée|couverture rigide|cartonato|copertina rigida|rilegato|gebonden|harde kaft|twarda oprawa|oprawa twarda|capa dura|encadernado|inbunden|inbundet
paperback|softcover|soft cover|soft back|taschenbuch|broschiert|broschur|kartoniert|tapa blanda|rústica|bolsillo|broché|brochée|poche|livre de poche|couverture souple|brossura|tascabile|copertina flessibile|pocket|paperback boek|zachte kaft|ingenaaid|miękka oprawa|oprawa miękka|capa mole|brochura|capa comum|häftad|häftat|storpocket
ebook|e book|ebooks|epub|kindle format|pdf|digital|digitales buch|elektronisches buch|libro electrónico|libro digital|livre numérique|livre électronique|libro elettronico|e boek|digitaal boek|książka elektroniczna|livro eletrónico|livro digital|e bok|download
yes|ja|sí|oui|sì|tak|sim|true|wahr|verdadero|vrai|vero|waar|prawda|sant
no|nein|non|nee|nie|não|nej|false|falsch|falso|faux|onwaar|fałsz|falskt
vintage|antique|antik|antiguo|ancien|antico|retro
alkaline|alkali|alkalin|alcalina|alcaline|alkalisch|alkaliczna|alkaliczne|alkaliskt|alkali mangan
lithium ion|li ion|liion|lithium|litio|litowo jonowa|litowa|lítio|litiumjon|litium|lithium ionen|iones de litio|ioni di litio|akku
button|button cell|button cells|coin cell|knopfzelle|knopfzellen|pila de botón|pile bouton|a bottone|knoopcel|knoopcellen|guzikowa|pilha botão|knappcell
none|without|ohne|keine|sin|ninguno|ninguna|sans|aucun|aucune|senza|nessuno|zonder|geen|bez|sem|nenhum|utan|ingen|not included
merchant|seller|händler|verkäufer|vendedor|vendeur|venditore|verkoper|sprzedawca|säljare|own warehouse|eigenes lager
colour|color|farbe|couleur|colore|kleur|kolor|cor|färg
size|größe|talla|taille|taglia|maat|rozmiar|tamanho|storlek
pack size|pack|packungsgröße|tamaño del paquete|verpakkingsgrootte|stückzahl|pieces per pack
diameter|durchmesser|diámetro|diamètre|diametro|średnica|diâmetro
binding|einband|encuadernación|reliure|rilegatura|band|oprawa|encadernação
plug|stecker|enchufe|prise|spina|wtyczka|ficha
birthday|geburtstag|cumpleaños|anniversaire|compleanno|verjaardag|urodziny|aniversário|födelsedag
spring|frühling|frühjahr|primavera|printemps|lente|voorjaar|wiosna|vår
winter|invierno|hiver|inverno|zima
plain|schlicht|einfach|liso|lisa|uni|sencillo|simple|semplice|effen|gładki|simples|enkel
rustic|rustikal|landhaus|rústico|rustique|rustico|landelijk|rustykalny|rustik|lantlig|country
playful|verspielt|lúdico|juguetón|ludique|giocoso|speels|zabawny|divertido|lekfull|fun
classic|klassisch|clásico|classique|classico|klassiek|klasyczny|clássico|klassisk|timeless|zeitlos
`;

const squeeze = (word: string): string => fold(word).replace(/ /g, '');

interface Sense {
  readonly meaning: number;
  /** Whether it names the meaning itself, not a shade or a kind of it. */
  readonly plain: boolean;
}

const senses = new Map<string, Sense[]>();
for (const [meaning, line] of meanings.trim().split('\n').entries()) {
  const [names = '', shades = ''] = line.split(';');
  const add = (word: string, isPlain: boolean) => {
    const key = squeeze(word);
    const known = senses.get(key) ?? [];
    if (key !== '' && !known.some((sense) => sense.meaning === meaning))
      senses.set(key, [...known, { meaning, plain: isPlain }]);
  };
  for (const word of names.split('|')) add(word, true);
  for (const word of shades.split('|')) add(word, false);
}
const meaningOf = (word: string): number => senses.get(squeeze(word))?.[0]?.meaning ?? -1;

/** A colour for one that a channel may not have. Common practice. */
const nextTo = new Map(
  (
    [
      ['turquoise', 'blue'],
      ['turquoise', 'green'],
      ['copper', 'brown'],
      ['copper', 'orange'],
      ['gold', 'yellow'],
      ['silver', 'grey'],
      ['beige', 'brown'],
      ['pink', 'red'],
      ['transparent', 'white'],
      ['refurbished', 'used'],
      ['back order', 'pre order'],
      ['discontinued', 'out of stock'],
      ['baby', 'child'],
      ['girls', 'child'],
      ['boys', 'child'],
      ['girls', 'women'],
      ['boys', 'men'],
      ['vintage', 'used'],
      ['unisex', 'adult'],
    ] as const
  ).map(([one, other], at) => [
    `${meaningOf(one)}:${meaningOf(other)}`,
    at < 2 && other === 'green' ? 0.9 : 1,
  ]),
);

/** Words that only say how light, strong or dull a colour is, or what it is on, in the nine languages. */
const modifiers = new Set(
  'dark deep light pale bright soft pastel matt matte glossy shiny metallic neon warm cold cool dusty vintage washed mottled melange dunkel tief hell zart blass kräftig leuchtend matt glänzend meliert gewaschen oscuro oscura claro clara pálido pálida intenso mate brillante suave foncé foncée clair claire pâle vif mat brillant doux chiné scuro scura chiaro chiara opaco lucido tenue donker donkere licht lichte fel zacht glanzend ciemny ciemna ciemne jasny jasna jasne blady matowy błyszczący ciemno jasno escuro escura claro fosco brilhante mörk mörkt ljus ljust matt blank mellan bleach color colour farbe couleur colore kleur kolor cor färg coloured farben farbig im in di de d en of the und and y et e i och oder or mit with con avec'
    .split(' ')
    .map(squeeze),
);

const many = meaningOf('multicoloured');
const [sold, there] = [meaningOf('sold out'), meaningOf('in stock')];
const [women, men, everyone] = [meaningOf('women'), meaningOf('men'), meaningOf('unisex')];
/** "Not" in the nine languages: "nicht auf Lager" is not "auf Lager". */
const negations = new Set('not no nicht kein keine nie niet geen pas plus non nao inte ej ikke'.split(' '));

/** The longest run of words from a place that has a meaning, up to four words. */
function runAt(
  words: readonly string[],
  from: number,
): { senses: readonly Sense[]; length: number } | undefined {
  for (let length = Math.min(4, words.length - from); length > 0; length--) {
    const found = senses.get(words.slice(from, from + length).join(''));
    if (found) return { senses: found, length };
  }
  return undefined;
}

/** Only colours are put together with other words so that the last part tells: "seminovo" is not new. */
const lastColour = meaningOf('transparent');

/** The longest meaning at a word's end, as languages write that put words together: "moosgrün", "mörkblå". */
function atTheEnd(word: string): readonly Sense[] | undefined {
  for (let cut = 2; cut <= word.length - 3; cut++) {
    const found = senses.get(word.slice(cut))?.filter((sense) => sense.plain && sense.meaning <= lastColour);
    if (found && found.length > 0) return found;
  }
  return undefined;
}

/** What a text means, read word by word. */
export interface ReadChoice {
  readonly meanings: readonly number[];
  /** 0 to 1: all of it understood, a shade only, or with words in it that say nothing here. */
  readonly sure: number;
}

/** Reads one part of a composition. */
function readPart(text: string): ReadChoice | undefined {
  const complete = senses.get(squeeze(text));
  if (complete)
    return {
      meanings: complete.map(({ meaning }) => meaning),
      sure: complete.some((sense) => sense.plain) ? 1 : 0.95,
    };
  const words = fold(text).split(' ');
  const found: { senses: readonly Sense[]; kind: 'word' | 'end' }[] = [];
  let unknown = 0;
  for (let at = 0; at < words.length; ) {
    const word = words[at] ?? '';
    const run = runAt(words, at);
    if (run && !(run.length === 1 && modifiers.has(word) && !run.senses.some((sense) => sense.plain))) {
      found.push({ senses: run.senses, kind: 'word' });
      at += run.length;
      continue;
    }
    const end = word.length > 4 ? atTheEnd(word) : undefined;
    if (end) found.push({ senses: end, kind: 'end' });
    else if (!modifiers.has(word)) unknown++;
    at++;
  }
  if (found.length === 0) return undefined;
  if (
    words.some((word) => negations.has(word)) &&
    !found.some((one) => one.senses.some(({ meaning }) => meaning === sold))
  )
    return found.some((one) => one.senses.some(({ meaning }) => meaning === there))
      ? { meanings: [sold], sure: 0.9 }
      : undefined;
  // What names a meaning itself stands before what is only a shade of one.
  const plain = found.filter((one) => one.senses.some((sense) => sense.plain));
  const all = [plain, found].map((list) => [
    ...new Set(list.flatMap((one) => one.senses.map(({ meaning }) => meaning))),
  ]);
  const [named = [], every = []] = all;
  return {
    meanings: [...named, ...every.filter((one) => !named.includes(one))],
    sure: Math.max(0.5, (unknown > 0 ? 0.82 : 0.94) - 0.06 * Math.max(0, (named.length || every.length) - 1)),
  };
}

const stored = new Map<string, ReadChoice | undefined>();

/** What is longer is no word of a choice. */
const MAX_CHARACTERS = 200;

/**
 * Reads a word or a phrase word by word: "bleu marine", "dunkelgrün", "off white/anthracite". Of a composition the first part
 * counts; three and more are many colours.
 */
export function readChoice(text: string): ReadChoice | undefined {
  if (text.length > MAX_CHARACTERS) return undefined;
  if (stored.has(text)) return stored.get(text);
  const complete = readPart(text);
  const parts = text
    .split(/[/,;+&|]|\s-\s|\s(?:and|und|y|et|e|en|i|och)\s/)
    .filter((part) => fold(part) !== '');
  let read = complete;
  if (parts.length > 1 && !senses.has(squeeze(text))) {
    const each = parts.flatMap((part) => readPart(part) ?? []);
    const [first] = each;
    const has = (meaning: number) => each.some((one) => one.meanings.includes(meaning));
    if (has(women) && has(men)) read = { meanings: [everyone], sure: 0.95 };
    else if (each.length >= 3) read = { meanings: [many, ...(first?.meanings ?? [])], sure: 0.85 };
    else if (first) read = { ...first, sure: first.sure * 0.85 };
  }
  if (stored.size < 20_000) stored.set(text, read);
  return read;
}

/** How near two readings are, 0 to 1: the same meaning, the next best one, or neither. */
export function readAlike(value: ReadChoice, choice: ReadChoice): number {
  let best = 0;
  // The first meaning leads; the others stay as second thoughts.
  for (const [at, one] of value.meanings.entries())
    for (const other of choice.meanings) {
      const near = one === other ? 1 : 0.7 * (nextTo.get(`${one}:${other}`) ?? 0);
      best = Math.max(best, near * (at === 0 ? 1 : 0.85));
    }
  return best * value.sure * choice.sure;
}

/** Whether two words mean the same, in any of the nine languages. */
export function sameChoice(a: string, b: string): boolean {
  const [left, right] = [senses.get(squeeze(a)), senses.get(squeeze(b))];
  if (!left || !right) return false;
  // Two shades of one colour are not the same: burgundy is red, terracotta as well, and neither is the other.
  return left.some((one) =>
    right.some((other) => one.meaning === other.meaning && (one.plain || other.plain)),
  );
}
