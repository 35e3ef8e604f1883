'use client';
import { Button } from '@mantine/core';
import { storeVisits, visitShopNow } from '@/actions/workspace';
import { counted } from '@/core/formatting/formatting';
import { type ShopVisits, shopVisitsSchema } from '@/core/forms/shopVisits';
import { When } from '../kit/display/When';
import { useAction } from '../kit/hooks/useAction';
import { usePolling } from '../kit/hooks/usePolling';
import { SavedSettings } from './SavedSettings';

export interface VisitsFigures {
  readonly pages: number;
  readonly states: Readonly<Record<string, number | undefined>>;
  readonly failing: number;
  readonly last: Date | undefined;
  readonly trouble: { readonly address: string; readonly words: string } | undefined;
}

const stateWords = [
  ['read', 'with product data'],
  ['silent', 'without product data'],
  ['moved', 'have moved'],
  ['gone', 'are gone'],
  ['forbidden', 'not allowed by robots.txt'],
  ['due', 'waiting for their first visit'],
] as const;

/** How often figures are looked at while pages are being visited, in ms. */
const lookEvery = 4000;

/** Whether and how the shop's own pages are visited, and what they said. */
export function ShopVisitsForm({ visits, view }: { visits: ShopVisits; view: VisitsFigures }) {
  const doing = useAction();
  usePolling(visits.on && (view.pages === 0 || (view.states.due ?? 0) > 0), lookEvery);
  return (
    <section className="panel setup-form" aria-label="Pages of the shop" aria-busy={doing.busy}>
      <h2>Pages of the shop</h2>
      <p className="small muted">
        Item pages are visited from time to time. Checks reports a price, stock, condition or GTIN that
        differs from the listing. Pages that your <span className="mono">robots.txt</span> forbids are not
        visited.
      </p>
      <SavedSettings
        of="Visits"
        schema={shopVisitsSchema}
        values={visits}
        doing={doing}
        store={storeVisits}
      />
      {view.pages > 0 && (
        <p role="status">
          {counted(view.pages, 'page')}
          {stateWords.flatMap(([state, words]) => {
            const count = view.states[state] ?? 0;
            return count > 0 ? [`, ${count} ${words}`] : [];
          })}
          {view.failing > 0 && `; ${view.failing} did not answer`}.{' '}
          {view.last && (
            <span className="muted">
              Last visit <When at={view.last} />.
            </span>
          )}
        </p>
      )}
      {view.trouble && (
        <p className="small tone-risk">
          <span className="mono">{view.trouble.address}</span>: {view.trouble.words}
        </p>
      )}
      {visits.on && (
        <div>
          <Button
            variant="default"
            disabled={doing.busy}
            onClick={() => doing.run(visitShopNow(), 'All pages will be visited now')}
          >
            Visit all now
          </Button>
        </div>
      )}
    </section>
  );
}
