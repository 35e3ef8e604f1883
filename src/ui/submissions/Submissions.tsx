'use client';
import { pause, resume, stop } from '@/actions/submissions';
import { counted, formatNumber } from '@/core/formatting/formatting';
import { durationText } from '@/core/schedule/duration';
import type { SubmissionLine, SubmissionsView } from '@/server/submissions/list';
import { Bar } from '../kit/display/Bar';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { useAction } from '../kit/hooks/useAction';
import { useAddress } from '../kit/hooks/useAddress';
import { usePolling } from '../kit/hooks/usePolling';
import { SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { LinkButton } from '../kit/LinkButton';
import { causeLabels, stateLabels } from '../send/stateLabels';
import './submissions.css';

/** How far a submission is, 0 to 1: its parts that have left count half, all of it once it is answered. */
const shareOf = ({ state, parts, partsSent }: SubmissionLine): number =>
  state === 'waiting' ? 0.75 : parts === 0 ? 0.02 : 0.02 + (0.7 * partsSent) / parts;

/** Everything that is on its way, what was sent before, and when each feed goes next. */
export function Submissions({ view }: { view: SubmissionsView }) {
  const { query, go, withChange } = useAddress();
  const moving = view.underWay.some(({ state }) => state !== 'held' && state !== 'paused');
  usePolling(moving, 1500);
  const first = view.feeds[0];
  return (
    <>
      <div className={view.underWay.length === 0 ? 'outbox-top calm' : 'outbox-top'}>
        {view.underWay.length > 0 && (
          <section className="panel" aria-label="In progress">
            <h2>In progress</h2>
            {view.underWay.map((line) => (
              <SubmissionsUnderWay key={line.id} line={line} />
            ))}
          </section>
        )}
        <section className="panel" aria-label="Next">
          <h2>{view.underWay.length === 0 ? 'Nothing in progress. Next:' : 'Next'}</h2>
          <div className="nexts">
            {view.feeds.map(({ code, name, hour }) => (
              <div key={code} className="next">
                <Link className="text" href={`/feeds/${code}/settings`}>
                  {name}
                </Link>
                <span className={hour.paused ? 'tone-risk' : 'muted'}>
                  {hour.paused ? 'paused' : hour.next ? <When at={hour.next} zone={hour.zone} /> : 'manual'}
                  {hour.quick && ', prices at once'}
                </span>
              </div>
            ))}
          </div>
        </section>
      </div>
      <div className="panel outbox">
        <div className="bench-head">
          <h2 className="grow">Sent</h2>
          <SelectField
            name="Feed"
            value={query.get('feed') ?? ''}
            options={[
              ['', 'all feeds'] as const,
              ...view.feeds.map(({ code, name }) => [code, name] as const),
            ]}
            onChange={(feed) => go({ feed: feed || undefined, before: undefined })}
          />
        </div>
        {view.done.length === 0 ? (
          <Empty title="Nothing sent yet.">
            {first && <LinkButton href={`/feeds/${first.code}/send`}>Show ready listings</LinkButton>}
          </Empty>
        ) : (
          <table className="plain">
            <thead>
              <tr>
                <th>Feed</th>
                <th>Time</th>
                <th>Trigger</th>
                <th>Listings</th>
                <th>Result</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {view.done.map((line) => (
                <SubmissionsDone key={line.id} line={line} />
              ))}
            </tbody>
          </table>
        )}
        {view.before !== undefined && (
          <p style={{ padding: 12 }}>
            <Link className="text" href={withChange({ before: String(view.before) })}>
              Show earlier
            </Link>
          </p>
        )}
      </div>
    </>
  );
}

const placeOf = ({ feed, id }: SubmissionLine): string => `/feeds/${feed}/send?submission=${id}`;

function SubmissionsUnderWay({ line }: { line: SubmissionLine }) {
  const doing = useAction();
  const { id, state } = line;
  return (
    <div className="going" aria-busy={doing.busy}>
      <Link className="text" href={state === 'held' ? `/feeds/${line.feed}/send` : placeOf(line)}>
        {line.name}
      </Link>
      <span className="muted small">{counted(line.total, 'listing')}</span>
      <Bar segments={[{ share: shareOf(line), kind: 'primary' }]} label={stateLabels[state]} />
      <span className={state === 'held' || state === 'paused' ? 'tone-risk small' : 'muted small'}>
        {line.error ??
          (state === 'waiting' && line.usual !== undefined
            ? `${stateLabels[state]}, usually ${durationText(line.usual)}`
            : line.parts > 1
              ? `${state === 'paused' ? `${stateLabels[state]}, ` : ''}${line.partsSent} of ${line.parts} parts sent`
              : stateLabels[state])}
      </span>
      <span className="row small">
        {(state === 'queued' || state === 'sending') && (
          <TextButton onClick={() => doing.run(pause(id))}>Pause</TextButton>
        )}
        {state === 'paused' && <TextButton onClick={() => doing.run(resume(id))}>Resume</TextButton>}
        {['queued', 'sending', 'paused'].includes(state) && (
          <TextButton onClick={() => doing.run(stop(id))}>Stop</TextButton>
        )}
      </span>
    </div>
  );
}

function SubmissionsDone({ line }: { line: SubmissionLine }) {
  const { accepted, refused, withdrawn, silent, state } = line;
  const all = accepted + refused + withdrawn + silent;
  return (
    <tr>
      <td>
        <Link className="text" href={placeOf(line)}>
          {line.name}
        </Link>
        <span className="muted small"> version {line.version}</span>
      </td>
      <td className="muted nowrap">
        <When at={line.createdAt} />
      </td>
      <td className="muted">{causeLabels[line.cause]}</td>
      <td className="number">{formatNumber(line.total)}</td>
      <td>
        {state === 'answered' ? (
          <span className="row">
            {all > 0 && (
              <Bar
                segments={[
                  { share: (accepted + withdrawn) / all, kind: 'ready' },
                  { share: silent / all, kind: 'primary' },
                  { share: refused / all, kind: 'blocked' },
                ]}
              />
            )}
            <span>
              <span className="tone-ready">
                {formatNumber(accepted)} {line.cause === 'draft' ? 'saved' : 'accepted'}
              </span>
              {refused > 0 && <span className="tone-blocker">, {formatNumber(refused)} rejected</span>}
              {withdrawn > 0 && `, ${formatNumber(withdrawn)} withdrawn`}
              {silent > 0 && <span className="tone-risk">, {formatNumber(silent)} without a result</span>}
            </span>
          </span>
        ) : (
          <span className={state === 'failed' ? 'tone-blocker' : 'muted'}>
            {stateLabels[state]}
            {line.error && `: ${line.error}`}
          </span>
        )}
      </td>
      <td />
    </tr>
  );
}
