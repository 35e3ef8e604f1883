import { fold } from '../text/folding';
import { type Expander, MAX_CHARACTERS, type Reading, type Unit } from '../words/thesaurus';
import { cosine, summed } from '../words/vectors';
import { type CategoryTree, pathOf } from './tree';

/** How near a place is to a name by what the words mean. */
export interface CategoryByMeaning {
  readonly code: string;
  /** 0 to 1. */
  readonly score: number;
  /** How near the word of the name that is met least comes to anything of the place or its branch, 0 to 1. */
  readonly least: number;
  /** What led there: words of the name, parts of them, or what they are in English. */
  readonly matched: readonly string[];
}

export interface CategoriesByMeaning {
  /** The places that a name means, in no order. */
  find(name: string): CategoryByMeaning[];
  /** How near places are to all that a shop sells, by its categories' names: 0 to 1 by code, where words tell. */
  company(names: readonly string[]): ReadonlyMap<string, number>;
}

/** Tuned on `tests/data/labels/places-tuning.tsv`. */
const shares = {
  /** A synonym of a place counts so much of its name. */
  synonym: 0.9,
  /** A word found in the branch above only. */
  branch: 0.4,
  /** A word found in the branch adds so much, whether the place has it too or not: books are sooner among books. */
  branchToo: 0.08,
  /** How much it counts that the place's own words are met, beside the name's. */
  covered: 0.25,
  /** Words that are used alike count so much, from this cosine on. */
  alike: 0.9,
  alikeFrom: 0.3,
  /** A name that is used as a place is, all words of each together. */
  whole: 0.9,
  /** … where it has so many words at most; the more there are, the less all together say of each. */
  wordsInWhole: 2,
  /** Of that, the place's name beside its name with the branch above; and its synonyms. */
  ownInWhole: 0.7,
  synonymsInWhole: 0.9,
  /** What a place is among all that a shop sells. */
  synonymsInCompany: 0.5,
  branchInCompany: 0.5,
  /** From here on a word is said to have led there. */
  told: 0.35,
  /** The same where the place's name is put in other words. */
  toldOfOthers: 0.9,
};

/** Readings of a name that are compared as a whole. */
const MAX_WHOLES = 12;
/** Names of categories that are looked at to know what a shop sells. */
const MAX_NAMES = 300;

interface Place {
  readonly code: string;
  readonly readings: readonly {
    readonly sure: number;
    readonly units: readonly { readonly at: number; readonly weight: number }[];
    readonly putPlainly: true | undefined;
  }[];
  readonly branch: readonly number[];
  /** Among all that a shop sells. */
  readonly vector?: Float32Array | undefined;
  /** Its names, its names with the branch above, and its synonyms, each as a whole. */
  readonly wholes: readonly { own: Float32Array; withBranch: Float32Array; share: number }[];
}

/**
 * Places by meaning: every word of every place is expanded once (what it is in English, other words for it, wider meanings,
 * its definition), then a name's words are laid beside them. Each word of the name counts by the nearest word of the place,
 * so that the second word of a name says as much about a place as all that the first one implies.
 */
export function categoriesByMeaning(tree: CategoryTree, expander: Expander): CategoriesByMeaning {
  const known = new Map<string, { at: number; unit: Unit }>();
  const unitAt = (unit: Unit, language: string): number => {
    const key = `${language}\t${unit.word}`;
    const entry = known.get(key) ?? { at: known.size, unit };
    known.set(key, entry);
    return entry.at;
  };
  const placed = (readings: readonly Reading[], language: string, share: number) =>
    readings.map(({ sure, units, putPlainly }) => ({
      sure: sure * share,
      putPlainly,
      units: units.map((unit) => ({ at: unitAt(unit, language), weight: unit.weight })),
    }));
  const vectorsOf = (name: string, language: string | undefined, weight: number) =>
    (expander.read(name, language)[0]?.units ?? []).flatMap((unit) =>
      unit.vector ? [{ vector: unit.vector, weight: unit.weight * weight }] : [],
    );
  /** In English where it is in another language, as well as that is known. */
  const wholeOf = (name: string, language: string | undefined) =>
    expander.read(name, language).find(({ vector }) => vector)?.vector;
  const leaves = [...tree.byCode.values()].filter(({ children }) => children.length === 0);
  const places: Place[] = leaves.map(({ code, names, synonyms }) => ({
    code,
    vector: summed([
      ...Object.entries(names).flatMap(([language, name]) => vectorsOf(name, language, 1)),
      ...synonyms.flatMap((one) => vectorsOf(one, undefined, shares.synonymsInCompany)),
      ...pathOf(tree, code)
        .slice(0, -1)
        .flatMap((step) => Object.entries(tree.byCode.get(step)?.names ?? {}))
        .flatMap(([language, name]) => vectorsOf(name, language, shares.branchInCompany)),
    ]),
    wholes: [
      ...Object.entries(names).flatMap(([language, name]) => {
        const own = wholeOf(name, language);
        const above = tree.byCode.get(tree.byCode.get(code)?.parent ?? '')?.names[language];
        const withBranch = wholeOf([above, name].join(' '), language);
        return own && withBranch ? [{ own, withBranch, share: 1 }] : [];
      }),
      ...synonyms.flatMap((synonym) => {
        const own = wholeOf(synonym, undefined);
        return own ? [{ own, withBranch: own, share: shares.synonymsInWhole }] : [];
      }),
    ],
    readings: [
      ...Object.entries(names).flatMap(([language, name]) =>
        placed(expander.read(name, language), language, 1),
      ),
      ...synonyms.flatMap((synonym) => placed(expander.read(synonym), '', shares.synonym)),
    ],
    branch: pathOf(tree, code)
      .slice(0, -1)
      .flatMap((step) => Object.entries(tree.byCode.get(step)?.names ?? {}))
      .flatMap(([language, name]) =>
        (expander.read(name, language)[0]?.units ?? []).map((unit) => unitAt(unit, language)),
      ),
  }));
  const size = known.size;
  const holders = new Map<string, { at: number; weight: number }[]>();
  for (const { at, unit } of known.values())
    for (const [term, weight] of unit.terms) {
      const list = holders.get(term);
      if (list) list.push({ at, weight });
      else holders.set(term, [{ at, weight }]);
    }
  const usual = Math.log(1 + size / 1.5);
  /** What a term says: little where many words of the tree share it, or where it means nearly everything. */
  const says = (term: string, list: readonly { weight: number }[]): number => {
    const shared = list.reduce((sum, { weight }) => sum + weight, 0);
    return Math.min(1, (1.3 * Math.log(1 + size / (0.5 + shared))) / usual) * expander.content(term);
  };
  // What is written again and again says less about a place: "garden" in a tree of garden things.
  const within = new Float64Array(size);
  for (const { readings } of places)
    for (const at of new Set(readings.flatMap(({ units }) => units.map((unit) => unit.at))))
      within[at] = (within[at] ?? 0) + 1;
  const rare = within.map(
    (count) => 0.35 + (0.65 * Math.log(1 + leaves.length / (1 + count))) / Math.log(1 + leaves.length / 2),
  );

  /** How near a word is to every word of the tree, 0 to 1: all that speaks for it together. */
  const nearness = (unit: Unit): Float64Array => {
    const apart = new Float64Array(size).fill(1);
    for (const [term, weight] of unit.terms) {
      const list = holders.get(term);
      if (!list) continue;
      const share = says(term, list) * weight;
      for (const { at, weight: theirs } of list)
        apart[at] = (apart[at] ?? 1) * (1 - Math.min(0.999, share * theirs));
    }
    if (unit.vector)
      for (const { at, unit: theirs } of known.values()) {
        if (!theirs.vector) continue;
        const near = (cosine(unit.vector, theirs.vector) - shares.alikeFrom) / (1 - shares.alikeFrom);
        if (near > 0) apart[at] = (apart[at] ?? 1) * (1 - shares.alike * near);
      }
    return apart.map((left) => 1 - left);
  };

  const find = (name: string): CategoryByMeaning[] => {
    const readings = expander.read(name);
    const original = new Map(
      name
        .slice(0, MAX_CHARACTERS)
        .split(/[^\p{L}\p{M}\p{N}]+/u)
        .map((word) => [fold(word), word.toLowerCase()]),
    );
    const near = readings.map(({ units }) => units.map(nearness));
    const reported = readings
      .slice(0, MAX_WHOLES)
      .flatMap(({ vector, sure }) => (vector ? [{ vector, sure }] : []));
    const share =
      shares.whole * Math.min(1, shares.wordsInWhole / Math.max(1, readings[0]?.units.length ?? 0));
    return places.flatMap(({ code, readings: own, branch, wholes }) => {
      let best = 0;
      let matched: string[] = [];
      let leastMet = 0;
      for (const [which, { units, sure, putPlainly }] of readings.entries()) {
        const rows = near[which] ?? [];
        const above = rows.map((row) => branch.reduce((most, at) => Math.max(most, row[at] ?? 0), 0));
        for (const theirs of own) {
          let [met, weights, around] = [0, 0, 0];
          const led: string[] = [];
          let least = 1;
          for (const [at, unit] of units.entries()) {
            const row = rows[at];
            const most = theirs.units.reduce((top, one) => Math.max(top, row?.[one.at] ?? 0), 0);
            least = Math.min(least, Math.max(most, above[at] ?? 0));
            met += unit.weight * Math.max(most, shares.branch * (above[at] ?? 0));
            weights += unit.weight;
            around += unit.weight * (above[at] ?? 0);
            // Of other words for a name, only what is nearly the same says why.
            if (most >= (theirs.putPlainly ? shares.toldOfOthers : shares.told))
              led.push(original.get(unit.word) ?? (putPlainly ? name.trim().toLowerCase() : unit.word));
          }
          let [covered, all] = [0, 0];
          for (const { at, weight } of theirs.units) {
            const counts = weight * (rare[at] ?? 1);
            covered += counts * rows.reduce((top, row) => Math.max(top, row[at] ?? 0), 0);
            all += counts;
          }
          const score =
            sure *
            theirs.sure *
            (((1 - shares.covered) * met + shares.branchToo * around) / (weights || 1) +
              (shares.covered * covered) / (all || 1));
          if (score > best) [best, matched, leastMet] = [score, [...new Set(led)], least];
        }
      }
      let complete = 0;
      for (const { vector, sure } of reported)
        for (const { own, withBranch, share: says } of wholes) {
          const near =
            shares.ownInWhole * cosine(vector, own) + (1 - shares.ownInWhole) * cosine(vector, withBranch);
          complete = Math.max(complete, sure * says * near);
        }
      best = (best + share * complete) / (1 + share);
      return best > 0.05 ? [{ code, score: best, least: leastMet, matched }] : [];
    });
  };
  return {
    find,
    company(names) {
      const shop = summed(names.slice(0, MAX_NAMES).flatMap((name) => vectorsOf(name, undefined, 1)));
      return new Map(
        places.flatMap(({ code, vector }) =>
          shop && vector ? [[code, Math.max(0, cosine(shop, vector))] as const] : [],
        ),
      );
    },
  };
}
