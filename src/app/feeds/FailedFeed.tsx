import type { ReactNode } from 'react';
import type { FailedFeed as Failed } from '@/server/evaluation/feedContext';
import { feedName } from '@/server/plans/feedName';
import { DraftButtons, DraftScope } from '@/ui/frame/DraftControls';
import { LinkButton } from '@/ui/kit/LinkButton';

interface FailedFeedProps {
  feed: string;
  failed: Failed;
  children?: ReactNode;
}

/** A feed that cannot be computed: why, and the ways back. */
export async function FailedFeed({ feed, failed: { plans, words }, children }: FailedFeedProps) {
  return (
    <DraftScope feed={feed} revision={plans.revision}>
      <div className="page">
        <header className="page-head">
          <h1>{await feedName(plans.head)}</h1>
          <b className="tone-blocker">cannot be computed</b>
          <div className="acts">
            <DraftButtons
              changes={0}
              undoWords={plans.undoWords}
              version={plans.version}
              broken={[]}
              historyHref={`/feeds/${feed}/history`}
            />
          </div>
        </header>
        <section className="panel failed-feed" aria-label="This feed cannot be computed">
          <div className="empty" role="alert">
            <b className="tone-blocker">{words}</b>
            <span className="muted">
              {plans.undoWords
                ? `The last change was: ${plans.undoWords}. Undo reverts it.`
                : 'History restores an earlier version.'}{' '}
              Nothing was sent, and every other page works.
            </span>
            {!children && (
              <LinkButton variant="default" href={`/feeds/${feed}/history`}>
                See history
              </LinkButton>
            )}
          </div>
          {children}
        </section>
      </div>
    </DraftScope>
  );
}
