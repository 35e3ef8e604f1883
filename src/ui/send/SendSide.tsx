'use client';
import { goBack, pause, resume, stop } from '@/actions/submissions';
import { counted } from '@/core/formatting/formatting';
import type { SendStage, SubmissionCard } from '@/server/stages/send';
import { Bar } from '../kit/display/Bar';
import { When } from '../kit/display/When';
import type { Action } from '../kit/hooks/useAction';
import { useAddress } from '../kit/hooks/useAddress';
import { PromptButton } from '../kit/inputs/PromptButton';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { ChannelRecords } from './ChannelRecords';
import { stateLabels } from './stateLabels';

/** How a feed goes out, and what went out before. */
export function SendSide({ stage, doing }: { stage: SendStage; doing: Action }) {
  return (
    <aside className="send-side" aria-label="Delivery">
      <h2>Delivery</h2>
      <dl className="how">
        {stage.how.map(({ label, words }) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {stage.records && (
        <ChannelRecords feed={stage.feed} records={stage.records} labels={stage.recordLabels} doing={doing} />
      )}
      <h2>Submissions</h2>
      {stage.submissions.length === 0 && <p className="small muted">Nothing sent yet.</p>}
      {stage.submissions.map((one, at) => (
        <Card
          key={one.id}
          one={one}
          current={one.id === stage.current?.id}
          earlier={at > 0 && one.id === stage.current?.id}
          doing={doing}
        />
      ))}
    </aside>
  );
}

const steps = ['made', 'checked', 'sent', 'answered'] as const;

interface CardProps {
  one: SubmissionCard;
  current: boolean;
  /** Whether something was sent after it, and the channel could be brought back to it. */
  earlier: boolean;
  doing: Action;
}

function Card({ one, current, earlier, doing }: CardProps) {
  const { withChange } = useAddress();
  const { feed } = one;
  const going = ['queued', 'sending', 'paused', 'waiting'].includes(one.state);
  const answered = one.accepted + one.refused + one.withdrawn + one.silent;
  return (
    <div className={current ? 'submission here' : 'submission'}>
      <Link
        href={withChange(
          current
            ? { submission: undefined }
            : { submission: String(one.id), view: undefined, sample: undefined },
        )}
        scroll={false}
        aria-current={current}
        className="submission-head"
      >
        <b>
          <When at={one.createdAt} />
        </b>
        <span className="small muted">
          {(one.cause === 'test' || one.cause === 'draft') && (
            <span className="tone-draft">{one.cause === 'test' ? 'test account, ' : 'drafts, '}</span>
          )}
          {counted(one.total, 'listing')}
        </span>
      </Link>
      {going ? (
        <span className="steps" role="img" aria-label={stateLabels[one.state]}>
          {steps.map((step) => (
            <span key={step} className="small muted">
              <span className="step">
                <span style={{ width: `${one.steps[step] * 100}%` }} data-part={one.steps[step] < 1} />
              </span>
              {step}
            </span>
          ))}
        </span>
      ) : (
        one.state === 'answered' &&
        answered > 0 && (
          <Bar
            segments={[
              { share: (one.accepted + one.withdrawn) / answered, kind: 'ready' },
              { share: one.silent / answered, kind: 'primary' },
              { share: one.refused / answered, kind: 'blocked' },
            ]}
            label={`${one.accepted} of ${answered} accepted`}
          />
        )
      )}
      <span className="small">
        {one.state === 'answered' ? (
          <>
            <span className="tone-ready">
              {one.accepted} {one.cause === 'draft' ? 'saved' : 'accepted'}
            </span>
            {one.refused > 0 && <span className="tone-blocker">, {one.refused} rejected</span>}
            {one.withdrawn > 0 && `, ${one.withdrawn} withdrawn`}
            {one.silent > 0 && <span className="tone-risk">, {one.silent} without a result</span>}
          </>
        ) : (
          <span className={one.state === 'failed' ? 'tone-blocker' : going ? 'tone-draft' : 'muted'}>
            {one.state === 'sending' && one.files > 1
              ? `${one.filesSent} of ${one.files} parts sent`
              : stateLabels[one.state]}
          </span>
        )}
      </span>
      {one.error && <span className="small tone-risk">{one.error}</span>}
      {one.releaseWords && (
        <span className="small muted">
          Released by {one.releasedBy}: “{one.releaseWords}”
        </span>
      )}
      <span className="small row">
        {(one.state === 'queued' || one.state === 'sending') && (
          <TextButton onClick={() => doing.run(pause(one.id))}>Pause</TextButton>
        )}
        {one.state === 'paused' && <TextButton onClick={() => doing.run(resume(one.id))}>Resume</TextButton>}
        {earlier && one.state === 'answered' && (
          <PromptButton
            label="Restore this submission at the channel"
            ask="Reason. It sends the values of that time, withdraws later listings, and pauses the schedule."
            onAnswer={(words) => doing.run(goBack(feed, one.id, words), 'The channel is being restored.')}
          />
        )}
        {['queued', 'sending', 'paused'].includes(one.state) && (
          <TextButton onClick={() => doing.run(stop(one.id))}>Stop</TextButton>
        )}
      </span>
    </div>
  );
}
