import { spokenName } from '../../text/similarity';
import { headingMeaning } from './headingLexicon';

/** What holds only how the thing above it is called. */
const callsAbove =
  /^[@#]?(name|title|label|navn|nimi|n[aá]zev|n[eé]v|nom|nombre|nome|naam|nazwa|namn|bezeichnung|titel|titre|t[ií]tulo|titolo|denumire|nume|όνομα|ad[ıi]?)$/iu;
/** Of a path to a name the thing that is named and the name: “brand/name” of “children/products/brand/name”. */
export const nearest = (path: string): string => {
  const names = path.split('/');
  return names.length > 2 && callsAbove.test(names.at(-1) ?? '') ? names.slice(-2).join('/') : path;
};

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
