import { z } from 'zod';
import { named, settingsOf } from '../forms/forms';
import { languageName } from '../locale/languages';
import { unitNames } from '../measures/units';
import { type AttributeKind, attributeKinds, kindFacts, kindLabels } from './attributeKinds';
import { sourceCode, waitsForCode } from './item';
import { type Term, termSchema } from './terms';
import { codeInCurrency, codeInLanguage } from './value';

/** Names that every object has of its own. */
const reserved: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype));

export const attributeSchema = z.object({
  label: named(z.string().trim().min(1, 'Enter a label'), 'Label', { signs: 24 }),
  code: named(
    z
      .string()
      .regex(/^[A-Za-z][A-Za-z0-9]*(@([A-Z]{3}|[a-z]{2,3}))?$/, 'Letters and digits, starting with a letter')
      .max(100)
      .refine((code) => !reserved.has(code), {
        message: 'is reserved; choose another code',
      })
      .meta({
        description:
          'schema.org property name where there is one; behind an @ the currency of amounts, or the language of texts, kept beside each other',
      }),
    'Code',
    { signs: 20 },
  ),
  kind: named(z.enum(attributeKinds), 'Kind', { options: kindLabels }),
  unit: named(z.string().optional(), 'Default unit', { among: unitNames }),
  family: named(
    z.string().optional().meta({ description: 'the only family that has this attribute' }),
    'For',
    {
      none: 'all items',
      signs: 18,
    },
  ),
  languages: named(
    z
      .array(
        z
          .string()
          .toLowerCase()
          .regex(/^[a-z]{2,3}$/, 'Tags of languages with commas between, such as de, fr'),
      )
      .optional()
      .meta({
        description: 'further languages it is written in beside the main one, BCP 47 primary subtags',
      }),
    'Other languages',
    { none: 'de, fr' },
  ),
  synonyms: named(z.array(z.string()).default([]), 'Other names that sources use, with commas between', {
    signs: 48,
  }),
  list: z.boolean().optional().meta({ description: 'holds a list of texts; pictures always do' }),
  terms: z
    .array(termSchema)
    .optional()
    .meta({ description: 'the terms of a choice in their order; any word without it' }),
});
export type Attribute = z.infer<typeof attributeSchema>;

/** What a form asks of an attribute of a kind. */
export const attributeSettings = (kind: AttributeKind) =>
  settingsOf(attributeSchema).filter(
    ({ name }) =>
      (name !== 'unit' || kindFacts[kind].unit) && (name !== 'languages' || kindFacts[kind].written),
  );

const define = (
  code: string,
  label: string,
  kind: Attribute['kind'],
  synonyms: string,
  unit?: string,
  more: Partial<Attribute> = {},
): Attribute => ({
  code,
  label,
  kind,
  ...(unit ? { unit } : {}),
  synonyms: synonyms ? synonyms.split('|') : [],
  ...more,
});

const term = (code: string, label: string, synonyms: string): Term => ({
  term: code,
  label,
  synonyms: [label, ...synonyms.split('|')],
});

/**
 * The words for stock: schema.org `ItemAvailability`, with what people read and what sources write for it in the languages
 * suggestions know. Common practice, no source for the phrases.
 */
const availabilityTerms: readonly Term[] = [
  term(
    'InStock',
    'in stock',
    'available|yes|ja|sí|oui|sì|tak|sim|auf lager|lieferbar|sofort lieferbar|verfügbar|vorrätig|en stock|disponible|disponibile|op voorraad|w magazynie|dostępny|em stock|disponível|i lager',
  ),
  term(
    'OutOfStock',
    'out of stock',
    'not available|unavailable|out of stock|none left|no|nein|non|nee|nie|não|nej|nicht auf lager|ausverkauft|nicht lieferbar|nicht verfügbar|agotado|sin stock|épuisé|rupture de stock|esaurito|niet op voorraad|uitverkocht|brak w magazynie|niedostępny|esgotado|slut i lager|slut|slutsåld|vergriffen|rupture|agotada|esaurita|brak|wyprzedane|sem stock|ej i lager',
  ),
  term(
    'PreOrder',
    'pre-order',
    'preorder|vorbestellbar|vorbestellung|reserva|précommande|preordine|preventa|pre order|przedsprzedaż|pré-venda|förbeställning',
  ),
  term(
    'BackOrder',
    'back-order',
    'backorder|back order|nachbestellt|lieferrückstand|bajo pedido|sur commande|nabestelling',
  ),
  term(
    'LimitedAvailability',
    'limited availability',
    'begrenzt verfügbar|disponibilidad limitada|stock limité',
  ),
  term('SoldOut', 'sold out', 'restlos ausverkauft|vendido'),
  term('Discontinued', 'discontinued', 'auslaufartikel|nicht mehr lieferbar|descatalogado|discontinué'),
];

/** The words for condition: schema.org `OfferItemCondition`. Common practice, no source for the phrases. */
const conditionTerms: readonly Term[] = [
  term('NewCondition', 'new', 'brand new|neu|neuware|nuevo|neuf|nuovo|nieuw|nowy|novo|ny'),
  term('UsedCondition', 'used', 'second hand|gebraucht|usado|usé|occasion|usato|gebruikt|używany|begagnad'),
  term(
    'RefurbishedCondition',
    'refurbished',
    'renewed|generalüberholt|reacondicionado|reconditionné|ricondizionato|odnowiony|recondicionado|renoverad',
  ),
  term('DamagedCondition', 'damaged', 'defective|beschädigt|defekt|dañado|endommagé|danneggiato'),
];

/**
 * The attributes every catalog starts with. Codes follow schema.org `Product`, `Offer` and `ProductGroup`;
 * synonyms are the words headings use for them in English, German, Spanish and French.
 */
export const startingAttributes: readonly Attribute[] = [
  define(
    'sku',
    'SKU',
    'identifier',
    'code|item code|product code|id|number|article number|item number|item no|stock code|reference|ref|artikelnummer|artikel nr|bestellnummer|referencia|code article',
  ),
  define(
    'name',
    'Name',
    'text',
    'title|product name|product|item name|bezeichnung|artikelbezeichnung|titel|produktname|nombre|titulo|nom|designation',
  ),
  define(
    'description',
    'Description',
    'richText',
    'long description|details|text|body|beschreibung|langtext|descripcion|descriptif',
  ),
  define(
    'brand',
    'Brand',
    'text',
    'manufacturer|maker|vendor|marke|hersteller|marca|fabricante|marque|fabricant',
  ),
  define(
    'category',
    'Category',
    'text',
    'product type|group|department|kategorie|warengruppe|categoria|rubro|categorie',
  ),
  define(
    'gtin',
    'GTIN',
    'identifier',
    'ean|upc|isbn|barcode|bar code|ean13|strichcode|codigo de barras|code barres|ean code',
  ),
  define(
    'mpn',
    'Part number',
    'identifier',
    'manufacturer part number|mpn|part no|model number|herstellernummer|teilenummer|numero de pieza|supplier code|model',
  ),
  define(
    'price',
    'Price',
    'money',
    'retail price|selling price|rrp|preis|verkaufspreis|vk|precio|pvp|prix|unit price|gross price',
  ),
  define('priceCurrency', 'Currency', 'text', 'currency code|waehrung|währung|moneda|divisa|devise'),
  define(
    'listPrice',
    'List price',
    'money',
    'was price|recommended price|uvp|streichpreis|precio de lista|prix conseille',
  ),
  define(
    'availability',
    'Availability',
    'choice',
    'stock state|stock status|available|verfuegbarkeit|verfügbarkeit|lieferbar|disponibilidad|disponibilite',
    undefined,
    { terms: [...availabilityTerms] },
  ),
  define(
    'availabilityStarts',
    'Available from',
    'date',
    'available date|availability date|lieferbar ab|disponible desde|disponible a partir du',
  ),
  define(
    'inventoryLevel',
    'Stock',
    'number',
    'quantity|qty|on hand|in stock|bestand|lagerbestand|menge|existencias|stock|quantite',
  ),
  define('itemCondition', 'Condition', 'choice', 'state|zustand|estado|etat', undefined, {
    terms: [...conditionTerms],
  }),
  define('color', 'Colour', 'choice', 'color|shade|farbe|color name|couleur|tono|tint'),
  define('glaze', 'Glaze', 'choice', 'finish|glasur|esmalte|email'),
  define('size', 'Size', 'choice', 'groesse|größe|talla|tamaño|taille|dimension'),
  define('diameter', 'Diameter', 'measure', 'diam|durchmesser|diametro|diametre', 'cm'),
  define('material', 'Material', 'text', 'fabric|made of|materiel|stoff|materiau'),
  define('pattern', 'Pattern', 'text', 'print|muster|estampado|motif'),
  define('gender', 'Gender', 'choice', 'suggested gender|geschlecht|genero|genre|sex'),
  define('ageGroup', 'Age group', 'choice', 'altersgruppe|grupo de edad|tranche d age'),
  define(
    'ageRange',
    'Age range',
    'text',
    'suggested age|recommended age|altersempfehlung|edad recomendada|age',
  ),
  define('weight', 'Weight', 'measure', 'gross weight|gewicht|peso|poids|mass', 'kg'),
  define('width', 'Width', 'measure', 'breite|ancho|largeur', 'cm'),
  define('height', 'Height', 'measure', 'hoehe|höhe|alto|hauteur', 'cm'),
  define('depth', 'Depth', 'measure', 'length|tiefe|laenge|länge|largo|profundidad|profondeur', 'cm'),
  define('volume', 'Volume', 'measure', 'capacity|contents|inhalt|volumen|contenido|contenance', 'l'),
  define('plug', 'Plug', 'choice', 'plug type|stecker|enchufe|prise'),
  define(
    'energyClass',
    'Efficiency class',
    'choice',
    'energy class|energy label|energieeffizienzklasse|clase energetica|classe energetique',
  ),
  define('batteries', 'Batteries', 'text', 'battery|battery type|batterien|pilas|piles'),
  define(
    'dangerousGoods',
    'Dangerous goods',
    'choice',
    'hazard|hazmat|un number|gefahrgut|mercancia peligrosa',
  ),
  define(
    'sowBy',
    'Sow by',
    'date',
    'sow by date|best before|aussaat bis|mindesthaltbarkeit|sembrar antes de',
  ),
  define(
    'countryOfOrigin',
    'Country of origin',
    'text',
    'origin|made in|ursprungsland|herkunftsland|pais de origen|pays d origine',
  ),
  define(
    'customsCode',
    'Customs code',
    'identifier',
    'hs code|tariff number|commodity code|zolltarifnummer|codigo arancelario',
  ),
  define('author', 'Author', 'text', 'writer|autor|auteur'),
  define('bookFormat', 'Book format', 'choice', 'binding|format|einband|encuadernacion|reliure'),
  define('use', 'Use', 'text', 'intended use|suitable for|verwendung|uso|usage'),
  define(
    'highlights',
    'Highlights',
    'text',
    'bullet points|key features|features|merkmale|vorteile|caracteristicas',
    undefined,
    { list: true },
  ),
  define('warning', 'Warning', 'text', 'safety warning|warnhinweis|advertencia|avertissement'),
  define('digital', 'Digital goods', 'yesNo', 'download|digital|downloadable'),
  define(
    'url',
    'Page address',
    'link',
    'link|page|product url|product link|seite|produktseite|adresse|enlace|lien',
  ),
  define(
    'image',
    'Pictures',
    'pictures',
    'images|image url|picture|photo|bild|bilder|bild url|imagen|imagenes|photos',
  ),
  define(
    'salePrice',
    'Sale price',
    'money',
    'special price|offer price|aktionspreis|precio de oferta|prix promo',
  ),
  define('saleStarts', 'Sale from', 'date', 'sale start|aktion ab|oferta desde'),
  define('saleEnds', 'Sale until', 'date', 'sale end|aktion bis|oferta hasta'),
  define('cost', 'Cost', 'money', 'cost price|purchase price|einkaufspreis|ek preis|coste|prix d achat'),
  define('backOrder', 'Back-order', 'yesNo', 'backorder|may be back ordered|nachbestellbar'),
  define('minimumOrder', 'Minimum order', 'number', 'min order|moq|mindestmenge|pedido minimo'),
  define('maximumOrder', 'Maximum order', 'number', 'max order|hoechstmenge|höchstmenge|pedido maximo'),
  define('packageWeight', 'Package weight', 'measure', 'shipping weight|versandgewicht|peso de envio', 'kg'),
  define('packageWidth', 'Package width', 'measure', 'shipping width|paketbreite', 'cm'),
  define('packageHeight', 'Package height', 'measure', 'shipping height|pakethoehe|pakethöhe', 'cm'),
  define('packageDepth', 'Package depth', 'measure', 'shipping length|pakettiefe|paketlaenge', 'cm'),
  define('liquids', 'Liquids', 'yesNo', 'contains liquid|fluessig|flüssig|liquidos'),
  define('shelfLife', 'Shelf life', 'text', 'haltbarkeit|vida util|duree de conservation'),
  define('deliveryNote', 'Delivery note', 'text', 'download note|liefernotiz|nota de entrega'),
  define('pageTitle', 'Page title', 'text', 'seo title|meta title|seitentitel'),
  define(
    'pageDescription',
    'Page description',
    'text',
    'meta description|seo description|seitenbeschreibung',
  ),
  define(sourceCode, 'Imported from', 'text', ''),
  define(waitsForCode, 'Held for feeds', 'text', '', undefined, { list: true }),
];

/** Whether an attribute holds a list of texts. */
export const isList = ({ kind, list }: Pick<Attribute, 'kind' | 'list'>): boolean =>
  kindFacts[kind].list || list === true;

/** The attributes that hold texts in further languages beside those in the main one: `name@de` for `name`. */
export const textsInLanguages = (attributes: readonly Attribute[]): Attribute[] =>
  attributes.flatMap((one) =>
    (one.languages ?? []).map((language): Attribute => {
      const { languages: _all, ...rest } = one;
      const name = languageName(language);
      return {
        ...rest,
        code: codeInLanguage(one.code, language),
        label: `${one.label} in ${name}`,
        synonyms: [one.label, ...one.synonyms].flatMap((word) => [`${word} ${language}`, `${word} ${name}`]),
      };
    }),
  );

/**
 * Attributes with those in further languages that they may be written in, also where none of them is yet.
 * @param languages BCP 47, their first subtags count
 */
export function inLanguages(attributes: readonly Attribute[], languages: Iterable<string>): Attribute[] {
  const wanted = [...new Set([...languages].map((one) => (one.split('-')[0] ?? '').toLowerCase()))];
  const known = new Set(attributes.map(({ code }) => code));
  return [
    ...attributes,
    ...textsInLanguages(
      attributes.flatMap((one) =>
        kindFacts[one.kind].written && !one.code.includes('@') ? [{ ...one, languages: wanted }] : [],
      ),
    ).filter(({ code }) => !known.has(code)),
  ];
}

/**
 * The attributes that hold amounts in further currencies beside those of the catalog's own: `price@GBP` for `price`.
 * @param currencies of the markets sold in, ISO 4217
 * @param own the catalog's currency
 */
export function amountsInCurrencies(
  attributes: readonly Attribute[],
  currencies: Iterable<string>,
  own: string | undefined,
): Attribute[] {
  const others = [...new Set(currencies)].filter((currency) => currency !== own).sort();
  return attributes.flatMap((one) =>
    one.kind === 'money' && !one.code.includes('@')
      ? others.map((currency) => ({
          ...one,
          code: codeInCurrency(one.code, currency),
          label: `${one.label} in ${currency}`,
          synonyms: [one.label, ...one.synonyms].map((word) => `${word} ${currency}`),
        }))
      : [],
  );
}

/** Attributes that may tell the variants of a family apart, in the order in which they become axes. */
export const axisCodes: readonly string[] = [
  'glaze',
  'color',
  'diameter',
  'size',
  'volume',
  'height',
  'width',
  'plug',
  'bookFormat',
  'pattern',
];
