import { startingAttributes } from '../core/catalog/attributes';
import { codesIn, type Item, rowOf } from '../core/catalog/item';
import { guessAttribute, surveyOf } from '../core/catalog/quality/survey';
import { asText, attributeIndex } from '../core/catalog/value';
import { catalogWords, searchTree, suggestCategories } from '../core/categories/search';
import { pathName } from '../core/categories/tree';
import { suggestForField } from '../core/channels/suggestions';
import { InputError } from '../core/errors/inputError';
import { readCatalogCsv, readCatalogNdjson } from '../core/formats/catalogCsv';
import { textOfMarkup } from '../core/markup/markup';
import { suggestChoices } from '../core/values/suggestions';
import { expanderWith } from '../files/words';
import { bundledChannel } from '../server/channels/bundled';
import { fileText, pathOption, readArguments } from './arguments';

const whats = ['fields', 'values', 'categories'] as const;
const usage = `cart suggest ${whats.join('|')} --channel CODE --market COUNTRY [--language L] --catalog items.ndjson|csv`;

/** `cart suggest`: ranked suggestions as JSON lines, so that they can be measured on any catalog. @returns 0 */
export function suggestCommand(
  [word = '', ...words]: readonly string[],
  write: (line: string) => void,
): number {
  const what = whats.find((one) => one === word);
  if (!what) throw new InputError('unknownSuggestion', { known: whats.join(', '), word, usage });
  const { values: options } = readArguments(words, {
    values: ['channel', 'market', 'language', 'catalog'],
    flags: [],
  });
  const catalogPath = pathOption(options, 'catalog', usage);
  const [code, country] = [options.get('channel'), options.get('market')];
  if (!code || !country)
    throw new InputError('suggestionMissing', { option: code ? 'market' : 'channel', usage });
  const { sheet, tree } = bundledChannel(code);
  const market = sheet.markets.find((one) => one.country === country.toUpperCase());
  if (!market)
    throw new InputError('noMarketOf', {
      channel: sheet.name,
      country,
      known: sheet.markets.map((one) => one.country).join(', '),
    });
  const language = options.get('language') ?? market.languages[0] ?? 'en';
  const text = fileText(catalogPath, 'catalog');
  const items: Item[] = /\.(ndjson|jsonl)$/.test(catalogPath)
    ? readCatalogNdjson(text)
    : readCatalogCsv(text);
  const index = attributeIndex([...codesIn(items, []), 'family']);
  const rows = items.map((item) =>
    rowOf(
      { ...item, values: item.family ? { ...item.values, family: item.family } : item.values },
      undefined,
      index,
    ),
  );
  const expander = expanderWith(process.env.LIVELY_WORDS ?? '.words');
  const say = (line: object) => write(`${JSON.stringify(line)}\n`);

  if (what === 'categories') {
    const slot = (one: string) => index.slotOf(one) ?? -1;
    const groups = new Map<string, typeof rows>();
    for (const row of rows) {
      const category = asText(row[slot('category')]);
      if (category === '') continue;
      const group = groups.get(category);
      if (group) group.push(row);
      else groups.set(category, [row]);
    }
    const described = (row: (typeof rows)[number]) => textOfMarkup(asText(row[slot('description')]));
    const words = catalogWords(rows.map(described));
    const search = searchTree(tree, expander);
    const company = [...groups.keys()];
    for (const [name, group] of groups)
      say({
        category: name,
        items: group.length,
        suggestions: suggestCategories(
          search,
          tree,
          {
            name,
            company,
            itemNames: group.map((row) => asText(row[slot('name')])),
            described: { texts: group.map(described), catalog: words },
          },
          5,
        ).map((hit) => ({
          code: hit.code,
          path: pathName(tree, hit.code, language),
          score: hit.score,
          reasons: hit.matched.map((matched) => `“${matched}” maps to it`),
        })),
      });
    return 0;
  }

  const survey = surveyOf(index.codes, rows);
  const samples = new Map(
    [...survey.words].map(([one, counts]) => [one, counts.slice(0, 100).map(([value]) => value)] as const),
  );
  const known = new Map(startingAttributes.map((one) => [one.code, one]));
  const attributes = index.codes.map((one) => known.get(one) ?? guessAttribute(one, samples.get(one) ?? []));
  for (const field of sheet.fields) {
    if (field.kind === 'category') continue;
    const suggestions = suggestForField(field, attributes, survey.filled, samples, 5, (word) =>
      expander.otherWords(word),
    );
    if (what === 'fields') say({ field: field.code, label: field.label, need: field.need, suggestions });
    else if (field.choices) {
      const [best] = suggestions;
      for (const [value, count] of best ? (survey.words.get(best.attribute) ?? []) : [])
        say({
          field: field.code,
          attribute: best?.attribute,
          value,
          items: count,
          suggestions: suggestChoices(field, value, { english: (word) => expander.translate(word) }),
        });
    }
  }
  return 0;
}
