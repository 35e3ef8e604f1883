import { fold } from '../text/folding';

/**
 * Words that choices are made of, in English, German, Spanish and French: colours, states, people. A line is one meaning;
 * the German colour words also end longer ones ("moosgrün"). From memory, no source.
 */
const meanings = `
green|grün|verde|vert|olive|oliv|oliva|emerald|smaragd|mint|lime
blue|blau|azul|bleu|navy|marine|marino|turquoise blue|azur|sky
red|rot|rojo|rouge|crimson|scarlet|bordeaux|burgundy|weinrot|granate
yellow|gelb|amarillo|jaune|mustard|senf|mostaza|lemon|zitrone
black|schwarz|negro|noir|ebony|jet|tiefschwarz
white|weiß|blanco|blanc|ivory|elfenbein|marfil|cream white
grey|gray|grau|gris|anthracite|anthrazit|antracita|slate|schiefer|graphite|graphit|charcoal|ash
brown|braun|marrón|marron|brun|chocolate|schokolade|mahogany|walnut|nussbaum
beige|sand|cream|creme|crema|crème|oat|natur|natural|ecru
orange|naranja|apricot|aprikose|pumpkin
pink|rosa|rose|rosé|fuchsia|magenta|salmon|lachs
purple|violet|violett|lila|morado|violeta|pourpre|plum|pflaume|lavender|lavendel|aubergine
turquoise|türkis|turquesa|teal|petrol|aqua
gold|golden|dorado|doré|brass|messing|latón
silver|silber|silbern|plata|plateado|argent|argenté|chrome|chrom
copper|kupfer|cobre|cuivre|bronze|bronce
multicoloured|multicolour|bunt|mehrfarbig|multicolor|multicolore|mixed|various
transparent|clear|klar|durchsichtig|transparente
new|neu|nuevo|neuf|brand new|neuwertig|unused|newcondition
used|gebraucht|usado|occasion|second hand|usedcondition
refurbished|überholt|generalüberholt|reacondicionado|reconditionné|refurbishedcondition|wie neu
in stock|available|auf lager|vorrätig|lieferbar|sofort lieferbar|disponible|en stock|instock|verfügbar
out of stock|sold out|ausverkauft|nicht vorrätig|nicht lieferbar|vergriffen|agotado|sin stock|épuisé|outofstock|unavailable
pre order|preorder|vorbestellbar|vorbestellung|reserva|preventa|précommande|coming soon
back order|backorder|nachbestellt|bajo pedido|sur commande
women|woman|female|damen|frauen|frau|mujer|mujeres|femme|femmes|ladies|weiblich
men|man|male|herren|männer|mann|hombre|hombres|homme|hommes|gents|männlich
unisex|any|everyone|alle|unisexe
adult|adults|erwachsene|erwachsener|adulto|adultos|adulte|adultes
child|children|kids|kinder|kind|niño|niños|infantil|enfant|enfants
baby|infant|säugling|babys|bebé|bébé|newborn
hardcover|hardback|gebunden|hardcover buch|tapa dura|relié
paperback|softcover|taschenbuch|broschiert|tapa blanda|broché
ebook|e book|epub|digital|libro electrónico|livre numérique
yes|ja|sí|oui|true|wahr
no|nein|non|false|falsch
`;

const groups = meanings
  .trim()
  .split('\n')
  .map((line) => new Set(line.split('|').map((word) => fold(word).replace(/ /g, ''))));

/** Colour words that German puts behind others: "moosgrün", "dunkelblau". */
const endings = [
  'gruen',
  'grun',
  'blau',
  'rot',
  'gelb',
  'schwarz',
  'weiss',
  'grau',
  'braun',
  'rosa',
  'lila',
] as const;

const plain = (word: string): string => fold(word).replace(/ /g, '');

/** Whether two words mean the same, in any of the four languages. */
export function sameChoice(a: string, b: string): boolean {
  const [left, right] = [plain(a), plain(b)];
  return groups.some((group) => group.has(left) && group.has(right));
}

/** The colour word that a longer one ends with: "moosgrün" → "grun"; undefined where it is no such word. */
export function colourIn(word: string): string | undefined {
  const whole = plain(word);
  const found = endings.find((ending) => whole.length > ending.length + 2 && whole.endsWith(ending));
  return found === 'gruen' ? 'grun' : found;
}
