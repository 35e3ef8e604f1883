import { fold } from '../../text/folding';
import { furtherAside } from './furtherHeadings';

/**
 * Words that make a heading be about something beside the item: what it costs to ship or per litre, what is in a carton, who
 * ordered, when the row was made. By their beginnings, in the nine languages; common practice, no source.
 */
const aside = new RegExp(
  `(?<!\\p{L})(${[
    'shipping|postage|delivery cost|versandkost|porto|frais de|coste de envio|gastos|spedizione|verzendkosten|koszt wysylki|portes|frakt(?!vikt)',
    'grundpreis',
    'min|minimum|mindest\\w*|melde\\w*|reorder|safety',
    'gift|geschenk|cadeau|regalo|prezent|presente|present',
    'colou?r code|farbcode|chart|table|tabelle|logo|class|klasse|code hex|hex|alt|location|lagerplatz|lagerort|ubicacion|posizione|locatie|lokalizacja',
    'order date|ordered|created|creation|creazione|creacion|dodania|utworzenia|skapad|angelegt|changed|updated|modified|geandert|modifie|modificado|modificato|gewijzigd|zmiany|andrad',
    'customer|kunde|client|cliente|klant|klient|kund|sender|phone|telefon|telefono|contact|kontakt|email',
    'carton|karton|kartong|caixa|caja|doos|pallet|palette|scatola',
    ...furtherAside,
  ].join('|')})(?!\\p{L})`,
  'u',
);

/** Whether a heading says that it is about something beside the item itself. */
export const isAside = (heading: string): boolean => aside.test(fold(heading));

/** Whether a heading is about what a unit of something costs or weighs, not the item. */
export const isPerUnit = (heading: string): boolean =>
  /\b(?:unit price|grundpreis|prix unitaire|precio por unidad|(?:per|pro|je|au|al|por|za) (?:kilo|kg|g|gram|litre|liter|litro|litr|l|metre|meter|metro|m|100|unit|stuck|pezzo|piece|unidad))\b/.test(
    fold(heading),
  );
