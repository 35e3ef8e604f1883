'use client';
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { drop, release, send, sendHeld } from '@/actions/submissions';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { SendStage } from '@/server/stages/send';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { usePolling } from '../kit/hooks/usePolling';
import { PromptButton } from '../kit/inputs/PromptButton';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { Answers } from './Answers';
import { FilePreview } from './FilePreview';
import { Changes } from './SendChanges';
import { SendSide } from './SendSide';
import { isUnderWay } from './stateLabels';
import './send.css';
import { useAction } from '../kit/hooks/useAction';

const refusals = {
  unpublished: 'Publish the feed first. Only a published version is sent.',
  nothing: 'No changes since the last submission.',
  underWay: 'A submission of this feed is in progress. Wait for its result.',
  testing: 'The feed is set to the channel’s test account.',
  doubtful: 'All changes are held for review. Review them first.',
  conditions: 'Prerequisites of the channel are not met. See the feed’s settings.',
} as const;

/** The Send stage: what would leave held against what the channel has, the file, and what came of what was sent. */
export function SendStagePage({ stage, withTray }: { stage: SendStage; withTray: boolean }) {
  const { query, go, path } = useAddress();
  const draft = useDraft();
  const doing = useAction();
  const underWay = stage.submissions.some(({ state }) => isUnderWay(state) && state !== 'held');
  const held = stage.submissions.find(({ state }) => state === 'held');
  // An answer that a person brings in is not waited for; the file that is made first is.
  const moving =
    (underWay && stage.bySelf) ||
    stage.submissions.some(({ state }) => state === 'queued' || state === 'sending');
  usePolling(moving, 900);
  const post = async (what: 'due' | 'everything' | 'asDrafts' | 'drafts' | { only: string[] }) => {
    const result = await send(draft.feed, what);
    if (result.ok) {
      notifications.show({
        message: result.held
          ? 'Held for review: nothing was sent.'
          : stage.bySelf
            ? `${counted(result.count, 'listing')} being sent.`
            : 'The file is ready: upload it at the channel.',
      });
      if (!result.held) go({ submission: String(result.submission), view: undefined });
      return { ok: true as const };
    }
    return {
      ok: false as const,
      words: result.reason === 'refused' ? result.words : refusals[result.reason],
    };
  };
  const sendReviewed = async (words: string) => {
    const result = await sendHeld(draft.feed, words);
    if (result.ok) return { ok: true as const };
    return {
      ok: false as const,
      words: result.reason === 'refused' ? result.words : refusals[result.reason],
    };
  };
  /** What leaves at a press: all that is due, but for what is held for review. */
  const sending = Math.max(0, stage.toSend - stage.doubtful.count);
  /** Why nothing of this feed can be sent now; undefined where it can. */
  const forbidden = stage.wanted.length > 0 ? `Prerequisites not met: ${stage.wanted.join(', ')}` : undefined;
  const idle = doing.busy || forbidden !== undefined;
  const view = stage.current ? 'answers' : query.get('view') === 'file' ? 'file' : 'changes';
  const base = path.replace(/\/send$/, '');
  return (
    <div className={withTray ? 'send-work' : 'send-work with-side'}>
      <div className="send-main">
        <div className="figures">
          {stage.figures.map(({ code, words, more, count }) => (
            <div key={code} data-figure={code} title={more}>
              <span className="figure">{formatNumber(count)}</span>
              <b>{words}</b>
              <span className="small muted">{more}</span>
            </div>
          ))}
          {stage.figures.length === 0 && (
            <div className="wide">
              <b>Nothing is published yet.</b>
              <span className="small muted">
                {counted(stage.file.count, 'listing')} are ready in the draft; publish to send.
              </span>
            </div>
          )}
          <div className="send-act">
            <Button
              disabled={idle || sending === 0 || held !== undefined}
              title={forbidden}
              onClick={() => doing.run(post('due'))}
            >
              {sending === 0
                ? stage.toSend === 0
                  ? 'Nothing to send'
                  : 'Nothing else to send'
                : stage.bySelf
                  ? `Send ${counted(sending, 'listing')}`
                  : `Create the file, ${counted(sending, 'listing')}`}
            </Button>
            {stage.takesDrafts && stage.toSend > 0 && held === undefined && (
              <TextButton onClick={() => doing.run(post('asDrafts'))} disabled={idle}>
                Save as drafts at the channel
              </TextButton>
            )}
            {stage.drafts > 0 && (
              <TextButton onClick={() => doing.run(post('drafts'))} disabled={idle}>
                Send {counted(stage.drafts, 'draft')} for review
              </TextButton>
            )}
            {stage.published && stage.toSend === 0 && stage.ready > 0 && !underWay && (
              <TextButton onClick={() => doing.run(post('everything'))} disabled={idle}>
                Send all {formatNumber(stage.ready)} again
              </TextButton>
            )}
          </div>
        </div>
        {(held || (stage.alarms.length > 0 && stage.toSend > 0)) && (
          <div className="held" role="status">
            <b>{held ? 'Held for review' : 'Will be held for review'}</b>
            <span>{stage.alarms.join('; ')}</span>
            {held && (
              <span className="row" style={{ marginLeft: 'auto' }}>
                <PromptButton
                  label="Release"
                  ask="Reason for the release. It is stored in the log."
                  onAnswer={(words) => doing.run(release(held.id, words), 'Released; sending starts.')}
                />
                <TextButton onClick={() => doing.run(drop(held.id))}>Discard</TextButton>
              </span>
            )}
          </div>
        )}
        {stage.doubtful.count > 0 && (
          <div className="held" role="status">
            <b>{counted(stage.doubtful.count, 'listing')} held for review</b>
            <span>{stage.doubtful.reasons.join('; ')}. The rest is sent.</span>
            <span className="row" style={{ marginLeft: 'auto' }}>
              <PromptButton
                label={`Send ${counted(stage.doubtful.count, 'listing')} as shown`}
                ask="Reason. It is stored in the log."
                onAnswer={(words) => doing.run(sendReviewed(words))}
              />
            </span>
          </div>
        )}
        {stage.toSend > 0 && stage.rejected.length > 0 && (
          <div className="held" role="status">
            <b>Rejected before</b>
            <span>
              {stage.rejected.map(({ field, label, value, text, on, skus }) => (
                <span key={field + value} style={{ display: 'block' }}>
                  {label} “{value.length > 60 ? `${value.slice(0, 60)}…` : value}” was rejected on{' '}
                  <Link className="text mono" href={`/items/${encodeURIComponent(on)}`}>
                    {on}
                  </Link>{' '}
                  ({text}) and is on {counted(skus.length, 'listing')} to be sent.
                </span>
              ))}
            </span>
          </div>
        )}
        {stage.wanted.length > 0 && (
          <div className="held">
            <b>Prerequisites not met</b>
            <span>{stage.wanted.join(', ')}</span>
            <Link className="text" href={`${base}/settings`} style={{ marginLeft: 'auto' }}>
              Show prerequisites
            </Link>
          </div>
        )}
        <div className="said">
          <FilterChips
            options={[
              ['changes', 'Changes'],
              ['file', 'File'],
              ...(stage.current ? ([['answers', 'Sent']] as const) : []),
            ]}
            current={view}
            onPick={(next) =>
              go({
                view: next === 'file' ? 'file' : undefined,
                ...(next === 'answers' ? {} : { submission: undefined }),
              })
            }
          />
          <span className="small muted" style={{ marginLeft: 'auto' }}>
            {formatNumber(stage.ready)} ready
            {stage.soldOut > 0 && `, ${stage.soldOut} of them sold out`},{' '}
            <Link className="text" href={`${base}/checks?show=blocked`}>
              {formatNumber(stage.blocked)} blocked
            </Link>
            ,{' '}
            <Link className="text" href={`${base}/checks?show=leftOut`}>
              {formatNumber(stage.leftOut)} excluded
            </Link>
            {stage.draftDiffers && stage.published && '; without the draft'}
          </span>
        </div>
        {view === 'answers' && stage.current ? (
          <Answers stage={stage} current={stage.current} doing={doing} />
        ) : view === 'file' ? (
          stage.file.count > 0 ? (
            <FilePreview file={stage.file} />
          ) : (
            <Empty title="No listing is ready yet.">
              <span className="muted">The file is shown here as soon as one is ready.</span>{' '}
              <Link className="text" href={`${base}/checks?show=blocked`}>
                Show blockers
              </Link>
            </Empty>
          )
        ) : (
          <Changes
            stage={stage}
            {...(forbidden === undefined && { onSend: (sku: string) => doing.run(post({ only: [sku] })) })}
          />
        )}
      </div>
      {!withTray && <SendSide stage={stage} doing={doing} />}
    </div>
  );
}
