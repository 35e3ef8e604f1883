import { fold } from '../text/folding';

/**
 * Words of a shop for home and garden that mean the same, in English, German, Spanish and French: what a merchant calls a
 * category and what a channel calls it are seldom of one language. A line is one meaning. From memory, no source.
 */
const meanings = `
pot|pots|planter|flowerpot|topf|töpfe|blumentopf|pflanztopf|übertopf|kübel|maceta|macetero|tiesto|jardinera
lamp|lamps|light|lights|lighting|lampe|lampen|leuchte|leuchten|licht|beleuchtung|lámpara|luz|luces|iluminación|luminaire|éclairage
glove|gloves|handschuh|handschuhe|guante|guantes|gant|gants
apron|aprons|schürze|schürzen|delantal|delantales|tablier|tabliers
seed|seeds|samen|saatgut|saat|semilla|semillas|graine|graines|semence
book|books|buch|bücher|libro|libros|livre|livres
can|watering|gießkanne|gießkannen|kanne|regadera|regaderas|arrosoir|arrosoirs
food|feed|fertiliser|fertilizer|dünger|düngemittel|abono|abonos|fertilizante|engrais
liquid|fluid|flüssig|flüssigdünger|líquido|liquide
meter|meters|tester|testers|gauge|messgerät|messer|medidor|medidores|mesureur
moisture|humidity|feuchtigkeit|feuchte|bodenfeuchte|humedad|humidité
kit|kits|set|sets|juego|coffret|bausatz
child|children|kids|kid|kind|kinder|niño|niños|infantil|infantiles|enfant|enfants
toy|toys|spielzeug|juguete|juguetes|jouet|jouets
calendar|calendars|planner|planners|kalender|planer|calendario|calendarios|planificador|planificadores|calendrier|agenda
printable|print|printables|druckvorlage|vorlage|ausdrucken|imprimible|imprimibles|imprimable
shelf|shelves|shelving|rack|racks|regal|regale|estante|estantes|estantería|étagère|étagères
tray|trays|tablett|schale|schalen|bandeja|bandejas|plateau
saucer|saucers|untersetzer|platillo|platillos|plato|soucoupe
cloche|cloches|dome|domes|glocke|glocken|haube|campana|campanas|bell
greenhouse|greenhouses|gewächshaus|gewächshäuser|invernadero|invernaderos|serre
soil|substrate|compost|erde|substrat|tierra|sustrato|terre|terreau
tool|tools|werkzeug|werkzeuge|gartenwerkzeug|herramienta|herramientas|outil|outils
plant|plants|pflanze|pflanzen|planta|plantas|plante|plantes
garden|gardening|garten|gärtnern|gartenarbeit|jardín|jardinería|jardin|jardinage
growing|grow|cultivation|anbau|anzucht|cultivo|culture
herb|herbs|kräuter|kraut|hierba|hierbas|aromáticas|herbe|herbes
vegetable|vegetables|gemüse|hortaliza|hortalizas|verdura|légume|légumes
flower|flowers|blume|blumen|blüte|flor|flores|fleur|fleurs
bulb|bulbs|zwiebel|zwiebeln|bulbo|bulbos|bulbe|bulbes
fruit|fruits|obst|frucht|früchte|fruta|frutas
wrap|wrapping|geschenkpapier|verpackung|papel|envoltorio|emballage
gift|gifts|present|geschenk|geschenke|regalo|regalos|cadeau|cadeaux
card|cards|karte|karten|tarjeta|tarjetas|carte|cartes
paper|papier|stationery|schreibwaren|papelería|papeterie
battery|batteries|batterie|batterien|akku|pila|pilas|batería|baterías|pile|piles
cable|cables|kabel|leitung|câble|câbles
plug|plugs|stecker|enchufe|enchufes|prise
clothing|clothes|apparel|wear|kleidung|bekleidung|ropa|vestimenta|vêtement|vêtements
workwear|arbeitskleidung|arbeitshandschuhe|laboral|trabajo|travail
shirt|shirts|hemd|hemden|camisa|camisas|camiseta|chemise
trousers|pants|hose|hosen|pantalón|pantalones|pantalon
shoe|shoes|boot|boots|schuh|schuhe|stiefel|zapato|zapatos|bota|botas|chaussure|bottes
hat|hats|cap|hut|hüte|mütze|sombrero|gorra|gorro|chapeau|bonnet
sock|socks|socke|socken|calcetín|calcetines|chaussette
jacket|jackets|coat|jacke|jacken|mantel|chaqueta|abrigo|veste|manteau
kitchen|küche|cocina|cuisine
knife|knives|messer|küchenmesser|cuchillo|cuchillos|couteau|couteaux
cup|cups|mug|mugs|tasse|tassen|becher|taza|tazas|gobelet
plate|plates|dish|dishes|teller|geschirr|plato|platos|vajilla|assiette|assiettes
bowl|bowls|schüssel|schüsseln|cuenco|cuencos|bol|bols
jar|jars|glas|gläser|einmachglas|tarro|tarros|frasco|bocal|bocaux
bottle|bottles|flasche|flaschen|botella|botellas|bouteille|bouteilles
candle|candles|kerze|kerzen|vela|velas|bougie|bougies
vase|vases|vasen|jarrón|jarrones|florero|floreros
basket|baskets|korb|körbe|cesta|cestas|canasta|panier|paniers
box|boxes|kiste|kisten|schachtel|karton|caja|cajas|boîte|boîtes
bag|bags|tasche|taschen|beutel|sack|bolsa|bolsas|bolso|sac|sacs
towel|towels|handtuch|handtücher|toalla|toallas|serviette
cushion|cushions|pillow|kissen|cojín|cojines|almohada|coussin|oreiller
blanket|blankets|decke|decken|manta|mantas|couverture
chair|chairs|stuhl|stühle|sessel|silla|sillas|sillón|chaise|fauteuil
table|tables|tisch|tische|mesa|mesas
clock|clocks|uhr|uhren|reloj|relojes|horloge|montre
mirror|mirrors|spiegel|espejo|espejos|miroir|miroirs
picture|pictures|poster|posters|bild|bilder|cuadro|cuadros|lámina|affiche|tableau
thermometer|thermometers|termómetro|termómetros|thermomètre
scale|scales|waage|waagen|báscula|básculas|balanza|balance
pet|pets|haustier|haustiere|tierbedarf|mascota|mascotas|animal|animaux
dog|dogs|hund|hunde|perro|perros|chien|chiens
cat|cats|katze|katzen|gato|gatos|chat|chats
fish|aquarium|fisch|fische|acuario|pez|peces|poisson
bird|birds|vogel|vögel|pájaro|pájaros|ave|oiseau|oiseaux
baby|babies|säugling|bebé|bebés|bébé
puzzle|puzzles|rompecabezas
game|games|spiel|spiele|juego|juegos|jeu|jeux
doll|dolls|puppe|puppen|muñeca|muñecas|poupée
pen|pens|pencil|pencils|stift|stifte|bolígrafo|lápiz|lápices|stylo|crayon
notebook|notebooks|notizbuch|notizbücher|heft|cuaderno|cuadernos|libreta|cahier|carnet
brush|brushes|bürste|bürsten|pinsel|cepillo|cepillos|brosse|pinceau
soap|soaps|seife|seifen|jabón|jabones|savon
cream|creams|creme|cremes|crema|cremas|crème
tea|teas|tee|tees|té|tés|thé
coffee|coffees|kaffee|café|cafés
hose|hoses|schlauch|schläuche|gartenschlauch|manguera|mangueras|tuyau
spade|shovel|spaten|schaufel|pala|palas|pelle|bêche
scissors|shears|secateurs|pruner|schere|scheren|gartenschere|tijeras|podadera|sécateur|ciseaux
trellis|stake|stakes|rankhilfe|spalier|pflanzstab|tutor|tutores|enrejado|treillis|tuteur
label|labels|marker|markers|etikett|etiketten|pflanzschild|etiqueta|etiquetas|étiquette
pump|pumps|pumpe|pumpen|bomba|bombas|pompe
fan|fans|ventilator|ventilador|ventiladores|ventilateur
heater|heating|heizung|heizmatte|calefactor|calefacción|chauffage
filter|filters|filtro|filtros|filtre
watering|irrigation|bewässerung|riego|arrosage
ceramic|ceramics|stoneware|keramik|steinzeug|steingut|cerámica|gres|céramique|grès
glass|glas|vidrio|cristal|verre
wood|wooden|holz|madera|bois
outdoor|outdoors|draußen|außen|exterior|extérieur
indoor|indoors|innen|zimmer|interior|intérieur
wall|wand|pared|mural|mur
hanging|hanger|hänge|hängend|colgante|suspendu
`;

/** Endings of plurals in the four languages, so that "pots" meets "pot" and "Töpfe" meets "Topf". Common practice, no source. */
export function stem(word: string): string {
  if (word.length > 5 && /(ies)$/.test(word)) return `${word.slice(0, -3)}y`;
  if (word.length > 5 && /(en|es)$/.test(word)) return word.slice(0, -2);
  if (word.length > 3 && /[se]$/.test(word)) return word.slice(0, -1);
  return word;
}

const groups: readonly (readonly string[])[] = meanings
  .trim()
  .split('\n')
  .map((line) => [...new Set(line.split('|').map((word) => stem(fold(word))))]);

const byWord = new Map<string, readonly string[]>();
for (const group of groups)
  for (const word of group) byWord.set(word, [...new Set([...(byWord.get(word) ?? []), ...group])]);

/** Words long enough to be told apart inside a longer one, the longest first. */
const inside = [...byWord.keys()].filter((word) => word.length >= 4).sort((a, b) => b.length - a.length);
const parted = new Map<string, readonly string[]>();

/** The word before the last part of a longer one, without what links them in German: "pflanzen" → "pflanz". */
function firstOf(before: string): string | undefined {
  return [before, before.replace(/(s|n|en|er)$/, '')].map(stem).find((word) => byWord.has(word));
}

/**
 * The parts of a word put together of several, as German does, the last one first: "blumentopf" → "topf", "blum".
 * @param word folded and stemmed @returns none where it is no such word
 */
export function partsOf(word: string): readonly string[] {
  if (word.length < 7) return [];
  const known = parted.get(word);
  if (known) return known;
  const head = inside.find((part) => part.length <= word.length - 3 && word.endsWith(part));
  const first = head === undefined ? undefined : firstOf(word.slice(0, -head.length));
  const parts = [head, first].filter((part) => part !== undefined);
  if (parted.size < 20_000) parted.set(word, parts);
  return parts;
}

/** Other words for the same, in any of the four languages. @param word folded and stemmed */
export const sameMeaning = (word: string): readonly string[] =>
  (byWord.get(word) ?? []).filter((other) => other !== word);
