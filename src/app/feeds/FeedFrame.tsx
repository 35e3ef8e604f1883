import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { feedName } from '@/server/feeds/board';
import { sampleView } from '@/server/feeds/samples';
import { merchantConditions } from '@/server/feeds/settingsStage';
import { type FeedWork, type StageKey, stageViews, tryFeed } from '@/server/feeds/work';
import { DraftBar, DraftButtons, DraftConflict, DraftScope } from '@/ui/frame/DraftControls';
import { languageName, regionName } from '@/ui/frame/names';
import { StageLink } from '@/ui/frame/StageLink';
import { Bar } from '@/ui/kit/Bar';
import { counted } from '@/ui/kit/counted';
import { Link } from '@/ui/kit/Link';
import { Tray } from '@/ui/tray/Tray';
import { FailedFeed } from './FailedFeed';

export interface FeedQuery {
  sample?: string;
  field?: string;
  [name: string]: string | undefined;
}

interface FeedFrameProps {
  feed: string;
  stage: StageKey | 'differences' | 'history' | 'settings';
  query: FeedQuery;
  /** The field the tray shows where the address names none. */
  trayField?: ((work: FeedWork) => string | undefined | Promise<string | undefined>) | undefined;
  /** The item the tray shows where the address names none. */
  traySample?: ((work: FeedWork) => string | undefined | Promise<string | undefined>) | undefined;
  tray?: boolean;
  /** What the page shows where the feed cannot be computed, beside why and how to go back. */
  whenFailed?: ReactNode;
  children: (work: FeedWork) => ReactNode | Promise<ReactNode>;
}

/** What every stage of a feed stands in: head, stage line, bench, sample tray, impact bar. */
export async function FeedFrame({
  feed,
  stage,
  query,
  trayField,
  traySample,
  tray = true,
  whenFailed,
  children,
}: FeedFrameProps) {
  const { work, failed } = await tryFeed(feed);
  if (failed)
    return (
      <FailedFeed feed={feed} failed={failed}>
        {whenFailed}
      </FailedFeed>
    );
  if (!work) notFound();
  const { plans, impact, changes } = work;
  const [stages, sample] = await Promise.all([
    stageViews(work),
    tray
      ? sampleView(work, query.sample ?? (await traySample?.(work)), query.field ?? (await trayField?.(work)))
      : undefined,
  ]);
  const dirty = changes > 0;
  const wanting = merchantConditions(work).filter(({ met }) => !met).length;
  const barely = { country: regionName(plans.head.country), language: languageName(plans.head.language) };
  return (
    <DraftScope feed={feed} revision={plans.revision}>
      <div className="page">
        <header className="page-head">
          <h1>{await feedName(plans.head)}</h1>
          <span className="sub">
            {barely.country}, {barely.language}, {plans.head.currency}
          </span>
          <div className="acts">
            {dirty ? (
              <Link href={`/feeds/${feed}/differences`} className="draft-mark">
                Draft, {counted(changes, 'change')}
              </Link>
            ) : (
              <span className="muted small">
                {plans.version > 0 ? `version ${plans.version}, published` : 'never published'}
              </span>
            )}
            <Link href={`/feeds/${feed}/settings`} className={wanting > 0 ? 'text tone-risk' : 'text'}>
              {wanting > 0 ? `${counted(wanting, 'condition')} to meet` : 'Settings'}
            </Link>
            <DraftButtons
              changes={changes}
              undoWords={plans.undoWords}
              version={plans.version}
              historyHref={`/feeds/${feed}/history`}
            />
          </div>
        </header>
        <nav className="stages" aria-label="Stages">
          {stages.map(({ key, label, words, tone, share }) => (
            <StageLink key={key} href={`/feeds/${feed}/${key}`} here={key === stage}>
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
          <section className="bench" aria-label={stage}>
            {await children(work)}
          </section>
          {sample && <Tray sample={sample} feed={feed} />}
        </div>
        <DraftConflict />
        {dirty && <DraftBar impact={impact} feed={feed} published={plans.version > 0} />}
      </div>
    </DraftScope>
  );
}
