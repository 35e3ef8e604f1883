import { issueTitle } from '../../core/checks/messages';
import type { Severity } from '../../core/checks/severity';
import type { BlockerIndex } from '../../core/fixes/blockerIndex';

/** Listings with one kind of issue at one field. */
export interface CheckGroup {
  readonly key: string;
  readonly field: string;
  readonly title: string;
  readonly severity: Severity;
  readonly listings: number;
  /** Listings that are ready by the fix that is proposed, where it was tried; else those that nothing else blocks now. */
  readonly frees: number;
  readonly tried: boolean;
  readonly stage: string;
}

/** Warnings and tips, those of most listings first. @param labelOf a field's label by its code */
export const lighterIssues = (
  { causes }: Pick<BlockerIndex, 'causes'>,
  labelOf: (field: string) => string,
): CheckGroup[] =>
  [...causes]
    .flatMap(([key, { check, field, told, severity }]): CheckGroup[] =>
      told.length === 0
        ? []
        : [
            {
              key,
              field,
              title: issueTitle(check, labelOf(field)),
              severity,
              listings: told.length,
              frees: 0,
              tried: false,
              stage: 'fields',
            },
          ],
    )
    .sort((a, b) => b.listings - a.listings || a.key.localeCompare(b.key));

/** Warnings that more than half of the listings have: said once above a list, not in each row. */
export const commonIssues = (groups: readonly CheckGroup[], taken: number): CheckGroup[] =>
  groups.filter(({ severity, listings }) => severity === 'risk' && taken > 3 && listings > taken / 2);
