/** Words after which a name says what something fits, in nine languages; what follows them is no brand of the thing. */
const fits =
  /(?<![\p{L}\p{N}])(?:for|fits|fit|compatible with|works with|replaces|like|für|passend für|passend zu|passt zu|kompatibel mit|ersetzt|wie|pour|compatible avec|convient à|para|compatible con|compatible com|per|compatibile con|adatto a|voor|geschikt voor|past op|do|dla|pasuje do|kompatybilny z|till|för|passar)(?![\p{L}\p{N}])/iu;

const letters = /[\p{L}\p{N}]/u;

/** Brands of a catalog, made ready to be looked for in names. */
export interface KnownBrands {
  /** The brand of others that stands in a name, letter for letter; undefined where there is none. */
  in(name: string, own: string): string | undefined;
}

/** A brand of fewer letters stands in too many words. */
const MIN_LENGTH = 3;

/**
 * @param brands as items have them. Such as are written in small letters alone are not looked for: names hold the same words
 *   in their own sense
 */
export function brandsOf(brands: Iterable<string>): KnownBrands {
  const byFirst = new Map<string, string[]>();
  for (const brand of new Set(brands)) {
    const [first] = brand.split(/\s+/);
    if (brand.length < MIN_LENGTH || first === undefined || brand === brand.toLowerCase()) continue;
    byFirst.set(first, [...(byFirst.get(first) ?? []), brand]);
  }
  return {
    in(name, own) {
      const mine = own.toLowerCase();
      for (const { 0: word, index } of name.matchAll(/[\p{L}\p{N}][^\s,;()/]*/gu)) {
        const brand = byFirst
          .get(word)
          ?.find((one) => name.startsWith(one, index) && !letters.test(name.charAt(index + one.length)));
        if (brand === undefined) continue;
        const other = brand.toLowerCase();
        // A house and its lines, "Tarnholt" and "Tarnholt Studio", speak of each other.
        if (mine.includes(other) || other.includes(mine)) continue;
        if (!fits.test(name.slice(0, index))) return brand;
      }
      return undefined;
    },
  };
}
