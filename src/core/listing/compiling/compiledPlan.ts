import type { AttributeIndex, Row, Value } from '../../catalog/value';
import type { CategoryTree } from '../../categories/tree';
import type { Sheet } from '../../channels/sheet';
import type { Comparison } from '../../checks/comparing';
import type { FieldChecks } from '../../checks/compileChecks';
import type { ExternalFacts } from '../../checks/externalFacts';
import type { SeverityResolver } from '../../checks/severityOverrides';
import type { CompiledComposition } from '../../compose/composition';
import type { StepContext } from '../../compose/steps';
import type { ConditionScope, Predicate } from '../../conditions/conditions';
import type { KeywordLists } from '../../keywords/keyword';
import type { Terms } from '../../keywords/searchWords';
import type { CategoryMapping, Plan } from '../../plans/plan';
import type { CompiledRule } from '../../rules/rule';
import type { CompiledTitle } from '../../titles/pattern';

/** A plan and a sheet, compiled once: flat arrays over attribute slots, nothing to look up inside the loop. */
export interface CompiledPlan {
  readonly plan: Plan;
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
  readonly index: AttributeIndex;
  readonly watch: CompileOptions['watch'];
  /** What names in conditions and compositions stand for. */
  readonly scope: ConditionScope;
  readonly context: StepContext;
  /** By field position; undefined where nothing fills the field. */
  readonly compositions: readonly (CompiledComposition | undefined)[];
  readonly mapped: readonly { readonly at: number; run(row: Row): Value | undefined }[];
  readonly title: CompiledTitle | undefined;
  /** What shoppers type; undefined where no list of the market's language was brought in. */
  readonly terms: Terms | undefined;
  readonly titleAt: number;
  readonly categoryAt: number;
  readonly rules: readonly CompiledRule[];
  readonly inScope: Predicate | undefined;
  /** Whether an item does not join the feed yet. */
  waits(row: Row): boolean;
  /** Where each field is a must; undefined where it is everywhere or nowhere under a condition. */
  readonly mustHere: readonly (Predicate | undefined)[];
  readonly checks: readonly FieldChecks[];
  /** What the merchant says of checks; undefined where the channel's own severities count. */
  readonly judge: SeverityResolver | undefined;
  /** By what listings are compared with each other. */
  readonly compared: readonly Comparison[];
  /** Fields that take markup, with what cleans it: nothing else leaves. */
  readonly markup: readonly { readonly at: number; clean(value: Value): Value | undefined }[];
  placementOf(row: Row): { placement: CategoryMapping; from: string } | undefined;
  /** Where items may join what the channel has already; undefined where they may not. */
  readonly joins: Joins | undefined;
}

/** A listing whose field for it is filled joins an entry that the channel has, and is asked for little. */
export interface Joins {
  /** Where the entry's number stands. */
  readonly at: number;
  readonly skuSlot: number;
  /** By SKU: the entry that an item was said to join. */
  readonly entries: ReadonlyMap<string, string>;
  /** Positions of what is asked then, its own key and the entry's number among them. */
  readonly asked: ReadonlySet<number>;
}

export interface CompileOptions {
  /** What was found by looking; nothing where left out. */
  readonly seen?: ExternalFacts;
  readonly keywords?: KeywordLists | undefined;
  /** The day it is, 2027-03-31; without it nothing is said of days that have passed. */
  readonly day?: string | undefined;
  readonly languageOf?: ((text: string) => string | undefined) | undefined;
  /** Whose shop it is. */
  readonly merchant?: string | undefined;
  /** Asked now and then during bulk work; throws where it has gone on for too long. */
  readonly watch?: ((rows?: number) => void) | undefined;
}
