'use client';
import { formatNumber } from '@/core/formatting/formatting';
import type { TermUse, TermUses, TitlesStage } from '@/server/stages/titles';
import './titles.css';

const termUseLabels: Record<NonNullable<TermUse>, string> = {
  title: 'title',
  highlights: 'highlights',
  description: 'description',
  searchWords: 'search words',
};

/** What shoppers type for the item at hand, what its listing lacks of it first, and the search words that fill themselves. */
export function TermsPanel({ terms, filled }: { terms: TermUses; filled: TitlesStage['searchWords'] }) {
  return (
    <section aria-label="Search terms">
      <h2>Search terms</h2>
      {terms.total === 0 ? (
        <span className="muted">No search term for its category or its words.</span>
      ) : (
        <>
          <span className="small muted">
            {terms.saidCount} of {terms.total} used, {Math.round(terms.share * 100)} % of the searches
          </span>
          <ul className="terms">
            {terms.terms.map(({ term, volume, said }) => (
              <li key={term} className={said ? 'muted' : ''}>
                <span className="grow">
                  {term} {said && <span className="small">· {termUseLabels[said]}</span>}
                </span>
                <span className="mono small">{formatNumber(volume)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {filled.field !== undefined && (
        <div className="search-words">
          <span className="small muted">
            Search words, {filled.length}
            {filled.most !== undefined && ` of ${filled.most}`} {filled.measure}
          </span>
          <span>{filled.value || <span className="muted">no further terms</span>}</span>
        </div>
      )}
    </section>
  );
}
