import { spokenName } from '../../text/similarity';
import { headingMeaning } from './headingLexicon';

/** What holds only how the thing above it is called. */
const callsAbove =
  /^[@#]?(name|title|label|navn|nimi|n[aá]zev|n[eé]v|nom|nombre|nome|naam|nazwa|namn|bezeichnung|titel|titre|t[ií]tulo|titolo|denumire|nume|όνομα|ad[ıi]?)$/iu;
/** What the thing above a name may be about for the name to be the item's own. */
const ofItems: ReadonlySet<string> = new Set([
  'name',
  'description',
  'text',
  'code',
  'page',
  'link',
  'long',
  'short',
  'stock',
  'quantity',
]);
/** Whose name a path ends in: the item's own, another thing's (its supplier's, a colour's), or that of something nobody knows. */
export function whoseName(path: string): 'own' | 'another' | 'unknown' {
  const [above, last] = path.split('/').slice(-2);
  if (above === undefined || last === undefined || !callsAbove.test(last)) return 'own';
  const meant = headingMeaning(spokenName(above));
  if (meant === undefined) return itemLike.test(spokenName(above)) ? 'own' : 'unknown';
  return meant.about.split(' ').some((one) => ofItems.has(one)) ? 'own' : 'another';
}
const itemLike =
  /product|item|article|artikel|produ[kc]t|variant|offer|sku|goods|vare|tuote|zbo[zž]|term[eé]k|cikk|prodott|articol|προϊ[οό]ν|[uü]r[uü]n/iu;

/** What a path to a name is about: “brand” of “products/brand/name”, “products/name” of “shop/products/name”; others as they are. */
export function nearest(path: string): string {
  const names = path.split('/');
  if (!callsAbove.test(names.at(-1) ?? '')) return path;
  if (whoseName(path) === 'another') return (names.at(-2) ?? '').replace(/^[@#]/, '');
  return names.length > 2 ? names.slice(-2).join('/') : path;
}
