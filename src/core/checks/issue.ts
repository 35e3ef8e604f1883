/**
 * An issue is a fact, not a sentence: what was checked, how serious it is, which field, and the numbers behind it.
 * `words.ts` alone turns facts into text.
 */
export type Severity = 'blocker' | 'risk' | 'tip';

export interface Facts {
  missing: { need: 'must' | 'should'; because?: string };
  oneOfSets: { sets: readonly (readonly string[])[]; words: string };
  ratio: { ratio: number; words: string };
  tooLong: { length: number; most: number; measure: string };
  tooShort: { length: number; least: number; measure: string; advised: boolean };
  phoneCut: { at: number; first: string };
  choice: { found: string; choices: number };
  link: { found: string; reason: 'form' | 'scheme' | 'space' };
  money: { found: string; reason: 'form' | 'currency' | 'noCurrency' | 'zero'; currency: string };
  identifier: { found: string; reason: string };
  number: { found: string };
  range: { found: string; least: number | undefined; most: number | undefined };
  whole: { found: string };
  measure: { found: string; reason: 'form' | 'noUnit' | 'unit' | 'zero'; units: readonly string[] };
  yesNo: { found: string };
  cut: Record<never, never>;
  picture: { found: string };
  date: { found: string };
  pattern: { found: string; words: string };
  tooFew: { found: number; least: number };
  tooMany: { found: number; most: number };
  duplicate: { found: string; others: readonly string[]; count: number };
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
  listPrice: { list: string; price: string };
  stock: { reason: 'noneLeft' | 'someLeft' | 'noDate'; pieces: string };
  own: { words: string };
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

/** What identifies an issue on a listing, for comparing a draft with what is published. */
export const issueKey = (issue: Issue): string => `${issue.check}:${issue.field}`;
