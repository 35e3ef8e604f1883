import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { shownAway } from '@/app/gated';
import { counted } from '@/core/formatting/formatting';
import type { StageKey } from '@/core/plans/stages';
import { type FeedBody, type FeedPageName, type FeedQuery, feedPageOf } from '@/server/pages/stages';
import { DraftBar, DraftButtons, DraftConflict, DraftScope } from '@/ui/frame/DraftControls';
import { StageLink } from '@/ui/frame/StageLink';
import { languageName, regionName } from '@/ui/frame/stageNames';
import { Bar } from '@/ui/kit/display/Bar';
import { Link } from '@/ui/kit/Link';
import { SamplePanel } from '@/ui/samples/SamplePanel';
import { FailedFeed } from './FailedFeed';

interface FeedFrameProps<P extends FeedPageName> {
  feed: string;
  page: P;
  /** The stage that is marked in the line of stages, where it is not called like the page. */
  stage?: StageKey;
  query: FeedQuery;
  /** What the page shows where the feed cannot be computed, beside why and how to go back. */
  whenFailed?: ReactNode;
  children: (body: FeedBody<P>) => ReactNode;
}

/** What every page of a feed stands in: head, stage line, bench, sample tray, impact bar. */
export async function FeedFrame<P extends FeedPageName>({
  feed,
  page,
  stage,
  query,
  whenFailed,
  children,
}: FeedFrameProps<P>) {
  let found: Awaited<ReturnType<typeof feedPageOf<P>>>;
  try {
    found = await feedPageOf(feed, page, query);
  } catch (error) {
    return shownAway(error);
  }
  if (!found) notFound();
  if ('failed' in found)
    return (
      <FailedFeed feed={feed} failed={found.failed}>
        {whenFailed}
      </FailedFeed>
    );
  const { frame, sample, body } = found;
  const { head, name, revision, version, undoWords, changes, impact, broken, stages, wanting } = frame;
  const marked: string = stage ?? page;
  const dirty = changes > 0;
  return (
    <DraftScope feed={feed} revision={revision}>
      <div className="page">
        <header className="page-head">
          <h1>{name}</h1>
          <span className="sub">
            {regionName(head.country)}, {languageName(head.language)}, {head.currency}
          </span>
          <div className="acts">
            {dirty ? (
              <Link href={`/feeds/${feed}/differences`} className="draft-mark">
                Draft, {counted(changes, 'change')}
              </Link>
            ) : (
              <span className="muted small">
                {version > 0 ? `version ${version}, published` : 'never published'}
              </span>
            )}
            <Link href={`/feeds/${feed}/settings`} className={wanting > 0 ? 'text tone-risk' : 'text'}>
              {wanting > 0 ? `${counted(wanting, 'prerequisite')} to meet` : 'Settings'}
            </Link>
            <DraftButtons
              changes={changes}
              undoWords={undoWords}
              version={version}
              broken={broken}
              historyHref={`/feeds/${feed}/history`}
            />
          </div>
        </header>
        <nav className="stages" aria-label="Stages">
          {stages.map(({ key, label, words, tone, share }) => (
            <StageLink key={key} href={`/feeds/${feed}/${key}`} here={key === marked}>
              <b>{label}</b>
              <span className={`words tone-${tone}`}>{words}</span>
              <Bar
                segments={[
                  { share, kind: 'ready' },
                  { share: 1 - share, kind: 'blocked' },
                ]}
                label={`${Math.round(share * 100)} % of the listings pass`}
              />
            </StageLink>
          ))}
        </nav>
        <div className={sample ? 'work' : 'work alone'}>
          <section className="bench" aria-label={marked}>
            {children(body)}
          </section>
          {sample && <SamplePanel sample={sample} feed={feed} />}
        </div>
        <DraftConflict />
        {dirty && <DraftBar impact={impact} broken={broken} feed={feed} published={version > 0} />}
      </div>
    </DraftScope>
  );
}
