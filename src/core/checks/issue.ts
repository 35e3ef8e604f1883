import type { Beside } from '../pictures/beside';

/**
 * An issue is a fact, not a sentence: what was checked, how serious it is, which field, and the numbers behind it.
 * `words.ts` alone turns facts into text.
 */
export type Severity = 'blocker' | 'risk' | 'tip';
/** What stops a listing comes first. */
export const gravity: Readonly<Record<Severity, number>> = { blocker: 0, risk: 1, tip: 2 };

/** What others have as well: how many, and the first of them. */
export interface Shared {
  /** The number, where it is one. */
  readonly found: string;
  readonly others: readonly string[];
  readonly count: number;
}

/** By check. One that is whole in its file adds its own there. */
export interface Facts {
  missing: { need: 'must' | 'should'; because?: string };
  oneOfSets: { sets: readonly (readonly string[])[]; words: string };
  ratio: { ratio: number; words: string };
  tooLong: { length: number; most: number; measure: string };
  tooShort: { length: number; least: number; measure: string; advised: boolean };
  phoneCut: { at: number; first: string };
  choice: { found: string; choices: number };
  link: { found: string; reason: 'form' | 'scheme' | 'space' | 'session' | 'inside' };
  money: { found: string; reason: 'form' | 'currency' | 'noCurrency' | 'zero'; currency: string };
  identifier: { found: string; reason: string };
  number: { found: string };
  range: { found: string; least: number | undefined; most: number | undefined };
  whole: { found: string };
  measure: { found: string; reason: 'form' | 'noUnit' | 'unit' | 'zero'; units: readonly string[] };
  yesNo: { found: string };
  cut: Record<never, never>;
  picture: { found: string };
  pictureSize: { found: string; least?: number; most?: number; advised?: number };
  pictureFormat: { found: string; takes: readonly string[] };
  pictureGround: { found: number; wanted: number };
  pictureBeside: { found: readonly Beside[] };
  date: { found: string };
  pattern: { found: string; words: string };
  tooFew: { found: number; least: number };
  tooMany: { found: number; most: number };
  duplicate: Shared;
  sameGtin: Shared;
  sameTitle: Shared;
  samePicture: Shared;
  sameText: Shared;
  category: { found: string; reason: 'unknown' | 'branch' };
  restricted: { document: string; words: string };
  promotion: { found: string };
  capitals: { found: string };
  wordTwice: { found: string };
  symbols: { found: string };
  contact: { found: string; what: 'email' | 'address' | 'telephone' };
  garbled: { found: string; reason: 'encoding' | 'markup' | 'entity' };
  placeholder: { found: string };
  underCost: { price: string; cost: string };
  salePrice: { reason: 'notBelow' | 'dates'; found: string };
  listPrice: { list: string; price: string; far: boolean };
  priceOutlier: { found: string; usual: string; alike: number };
  stock: { reason: 'noneLeft' | 'someLeft' | 'noDate'; pieces: string };
  language: { found: string; wanted: string };
  isbn: { found: string; reason: 'noBook' | 'noIsbn' };
  ownCode: { found: string };
  onlyList: Record<never, never>;
  entryTwice: { found: string };
  orders: { least: string; most: string };
  packing: { package: string; item: string; what: 'lighter' | 'smaller' };
  unlikely: { found: string; large: boolean };
  dangerousGoods: { found: string };
  customsCode: { found: string; reason: 'form' | 'chapter' };
  origin: { found: string };
  plug: { found: string; country: string };
  ageWarning: { age: string };
  over: { found: string; what: 'sowBy' | 'sale' | 'stock' };
  own: { words: string };
  review: { words: string };
  otherBrand: { found: string };
  shopPage: {
    what: 'price' | 'currency' | 'availability' | 'condition' | 'gtin' | 'gone' | 'moved' | 'silent';
    page: string;
    listing: string;
  };
  fewPictures: { found: number; advised: number };
}

export type CheckName = keyof Facts;

export type Issue = {
  [K in CheckName]: {
    readonly check: K;
    readonly severity: Severity;
    readonly field: string;
    readonly facts: Facts[K];
  };
}[CheckName];

export type Report = <K extends CheckName>(
  check: K,
  severity: Severity,
  field: string,
  facts: Facts[K],
) => void;

/** One thing for each check and field, made when it is first asked for: for what goes through issues by the hundred thousand. */
export class ByCause<T> {
  private readonly fields = new Map<string, Map<CheckName, T>>();

  constructor(private readonly make: (check: CheckName, field: string) => T) {}

  of(check: CheckName, field: string): T {
    let checks = this.fields.get(field);
    if (!checks) {
      checks = new Map();
      this.fields.set(field, checks);
    }
    const known = checks.get(check);
    if (known !== undefined) return known;
    const made = this.make(check, field);
    checks.set(check, made);
    return made;
  }

  /** All that were asked for, those of one field beside each other. */
  all(): T[] {
    return [...this.fields.values()].flatMap((checks) => [...checks.values()]);
  }
}

/** What was said lately of each field, by check, the latest first. */
const lately = new ByCause((): Issue[] => []);
/** So much is remembered of each: of most fields few things are said in turns. */
const mostLately = 8;

const alike = <K extends CheckName>(facts: Facts[K], others: Facts[K]): boolean => {
  for (const name in facts) if (facts[name] !== others[name]) return false;
  for (const name in others) if (!(name in facts)) return false;
  return true;
};

/**
 * An issue. Where the same was said of the field lately, it is the same object: of a hundred thousand listings most lack the
 * same, and issues would take more room than their values. Nobody changes what is in one.
 */
export function issueOf<K extends CheckName>(
  check: K,
  severity: Severity,
  field: string,
  facts: Facts[K],
): Issue {
  const said = lately.of(check, field);
  for (let n = 0; n < said.length; n++) {
    const known = said[n] as Issue;
    if (known.severity !== severity || !alike(facts, known.facts as Facts[K])) continue;
    for (let back = n; back > 0; back--) said[back] = said[back - 1] as Issue;
    said[0] = known;
    return known;
  }
  const issue = { check, severity, field, facts } as Issue;
  for (let back = Math.min(said.length, mostLately - 1); back > 0; back--)
    said[back] = said[back - 1] as Issue;
  said[0] = issue;
  return issue;
}

/** What identifies an issue on a listing, for comparing a draft with what is published. */
export const issueKey = (issue: Issue): string => `${issue.check}:${issue.field}`;
