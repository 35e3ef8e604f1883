import { calledBy, identifies, isAbout, naming, titling } from './keys';
import type { Branch } from './tree';

/** What gathers things of many kinds is called, perhaps with another word before it: “productGroup”, “categories”. */
const sections =
  /(^|[a-z_@-])(groups?|categor(?:y|ies)|sections?|departments?|ranges?|gruppen?|kategorien?|warengruppen?|abteilung(?:en)?|rubrik(?:en)?|sortimente?|groupes?|cat[eé]gories?|rayons?|familles?|grupos?|categor[ií]as?|secci[oó]n(?:es)?|grupp[oi]|reparti?o?|groep(?:en)?|categorie[eë]n|grup[ay]|kategori[aeiy]|dzia[lł]y?|sec[cç][aãoõ]+(?:es)?|grupp(?:er)?|kategorier?|avdelning(?:ar)?|varegrupper?|afdeling(?:er)?|avdeling(?:er)?|ryhm[aä]t?|osastot?|skupin[ay]|csoport(?:ok)?|kateg[oó]ri[aá]k?|categorii|ομ[αά]δ(?:α|ες)|κατηγορ[ιί](?:α|ες)|gruplar|kategoriler)$/iu;
/** What a list of things that are sold is called, where another list holds it. */
const itemLists =
  /^(products?|items?|articles?|goods|skus|artikel|produkte?|waren|produits?|productos?|art[ií]culos?|prodott[oi]|articol[oi]|producten|produkty|produtos?|artigos?|produkter|varer?|varor|tuotteet|tuote|zbo[zž][ií]|term[eé]k(?:ek)?|cikk(?:ek)?|produse|προϊ[οό]ντα|[uü]r[uü]nler)$/iu;
const MAX_SECTION = 3;

/**
 * Whether an entry is no thing with variants but the heading above several things: it is called so, or holds what items are called,
 * says hardly more than its name, and not all of what stands below it is called by that.
 */
export function isSection(
  list: string,
  inner: string,
  own: Readonly<Record<string, string>>,
  below: readonly Branch[],
): boolean {
  const says = Object.keys(own).length;
  if (says === 0 || says > MAX_SECTION) return false;
  const items = areItems(inner, below);
  const gathers = sections.test(list) || (itemLists.test(inner) && !itemLists.test(list)) || items;
  if (!gathers) return false;
  const name = calledBy(own)?.[1].trim().toLowerCase();
  const theirs = below.map((one) => calledBy(one)?.[1].trim().toLowerCase());
  return (
    name !== undefined &&
    theirs.every((one) => one !== undefined && one !== '') &&
    // “Ridge pot” over “Ridge pot, moss” is one thing; “Lunch” over lunch boxes that are sold by themselves is a kind.
    (!theirs.every((one) => one?.includes(name)) || (items && !/\s/.test(name)))
  );
}

/** Cells with the names of all headings above them as one path, “Tents > Two-person”, under the uppermost one's column. */
export function withPath(
  cells: Record<string, string>,
  column: string,
  names: readonly string[],
): Record<string, string> {
  const path = [cells[column] ?? ''];
  for (let depth = 1; depth < names.length; depth++) {
    const below = `${names.slice(0, depth).join('/')}/`;
    const key = Object.keys(cells).find((one) => {
      const last = one.startsWith(below) ? one.slice(below.length) : '';
      return naming.test(last) || titling.test(last);
    });
    if (key === undefined) continue;
    path.push(cells[key] ?? '');
    delete cells[key];
  }
  cells[column] = path.filter((one) => one !== '').join(' > ');
  return cells;
}

/** What the variants of one thing are called. */
const variantLists =
  /(variant|variat|varyant|wariant|v[aá]ltozat|παραλλαγ|muunnel|optio|sku|size|gr[oö](?:ß|ss)e|child)/iu;
/** So many entries of a list, and so many keys of each, are looked at: no file says more with further ones. */
const MAX_LOOKED = 50;
/** Whether what stands in a list is sold by itself, whatever encloses it: each has its own code, name and price. */
const areItems = (inner: string, below: readonly Branch[]): boolean =>
  !variantLists.test(inner) &&
  below.length > 0 &&
  below.slice(0, MAX_LOOKED).every((one) => {
    const keys = Object.keys(one).slice(0, MAX_LOOKED);
    return keys.some(identifies) && calledBy(one) !== undefined && keys.some((key) => isAbout(key, 'price'));
  });
