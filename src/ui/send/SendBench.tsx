'use client';
import { Button, Loader } from '@mantine/core';
import { useInterval } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import { send } from '@/actions/feeds';
import type { SendStage } from '@/server/feeds/sendStage';
import { useDraft } from '../draft/useDraft';
import { useAddress } from '../kit/useAddress';
import { When } from '../kit/When';
import { stateWords } from './stateWords';
import './send.css';
import { counted } from '../kit/counted';
import { Empty } from '../kit/Empty';
import { FilterChips } from '../kit/FilterChips';
import { FileLook } from './FileLook';

const refusals = {
  unpublished: 'Publish the feed first: only published settings are sent.',
  nothing: 'Nothing has changed since it was last sent.',
  underWay: 'A submission of this feed is still under way. Its answer comes first.',
  conditions: 'The channel wants something of you first: see the conditions in the feed’s settings.',
  noStandIn: 'Nothing takes files of this channel by itself yet: save the file and upload it there by hand.',
} as const;

/** The Send stage: what is ready, the submissions, and the channel's answer for each listing. */
export function SendBench({ stage }: { stage: SendStage }) {
  const { query, withChange, path } = useAddress();
  const draft = useDraft();
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const { current } = stage;
  const underWay = current !== undefined && current.state !== 'answered' && current.state !== 'failed';
  const poll = useInterval(() => router.refresh(), 900);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the interval object is new at each render
  useEffect(() => {
    if (underWay) poll.start();
    else poll.stop();
    return poll.stop;
  }, [underWay]);
  const post = (everything: boolean) =>
    startBusy(async () => {
      const result = await send(draft.feed, everything);
      notifications.show(
        result.ok
          ? { message: `${result.count} listings are on their way.` }
          : {
              color: 'yellow',
              message: result.reason === 'refused' ? result.words : refusals[result.reason],
            },
      );
      router.refresh();
    });
  const [shown, setShown] = useState<'answers' | 'file'>('answers');
  const looking = stage.submissions.length === 0 || shown === 'file';
  const base = path.replace(/\/send$/, '');
  return (
    <>
      <div className="send-top">
        <div>
          <div className="counts">
            <span>
              <span className="figure tone-ready">{stage.ready.toLocaleString()}</span>ready
            </span>
            <Link href={`${base}/checks?show=blocked`}>
              <span className="figure tone-blocker">{stage.blocked.toLocaleString()}</span>blocked
            </Link>
            <Link href={`${base}/checks?show=leftOut`}>
              <span className="figure muted">{stage.leftOut.toLocaleString()}</span>left out
            </Link>
          </div>
          <div className="small muted">
            {!stage.published
              ? 'Nothing is published yet; publish to send.'
              : !stage.answers
                ? ''
                : stage.changed > 0
                  ? `${stage.changed} of the ready ones differ from what the channel was last sent.`
                  : 'The channel has the latest of every ready listing.'}
            {stage.draftDiffers && stage.published && ' The draft is not part of it until you publish.'}
            {!stage.answers && ' Nothing takes files of this channel by itself: upload it there by hand.'}
          </div>
        </div>
        {stage.answers ? (
          <div className="row">
            {stage.ready > 0 && stage.changed < stage.ready && (
              <Button variant="default" disabled={busy || underWay} onClick={() => post(true)}>
                Send all {stage.ready} again
              </Button>
            )}
            <Button disabled={busy || underWay || stage.changed === 0} onClick={() => post(false)}>
              {stage.changed > 0 ? `Send ${counted(stage.changed, 'listing')}` : 'Nothing to send'}
            </Button>
          </div>
        ) : (
          <Button
            component="a"
            href={`/api/feeds/${draft.feed}/file`}
            download
            disabled={stage.file.count === 0}
          >
            Save the file with {counted(stage.file.count, 'listing')}
          </Button>
        )}
      </div>
      {stage.submissions.length > 0 && (
        <div className="said">
          <FilterChips
            options={[
              ['answers', 'What was sent'],
              ['file', 'The file as it would leave now'],
            ]}
            current={shown}
            onPick={setShown}
          />
        </div>
      )}
      {looking ? (
        stage.file.count > 0 ? (
          <FileLook file={stage.file} />
        ) : (
          <Empty title="No listing is ready yet.">
            <span className="muted">Once one is, the file as it will leave is shown here.</span>{' '}
            <Link className="text" href={`${base}/checks?show=blocked`}>
              See what blocks them
            </Link>
          </Empty>
        )
      ) : (
        <div className="send-grid">
          <div className="send-list">
            {stage.submissions.map((one) => (
              <Link
                key={one.id}
                href={withChange({ submission: String(one.id) })}
                scroll={false}
                aria-current={one.id === current?.id}
              >
                <b>{counted(one.total, 'listing')}</b>{' '}
                <span className="small muted">version {one.version}</span>
                <span className="small" style={{ display: 'block' }}>
                  {one.state === 'answered' ? (
                    <>
                      <span className="tone-ready">{one.accepted} accepted</span>,{' '}
                      <span className={one.refused > 0 ? 'tone-blocker' : 'muted'}>
                        {one.refused} refused
                      </span>
                    </>
                  ) : (
                    <span className={one.state === 'failed' ? 'tone-blocker' : 'tone-draft'}>
                      {stateWords[one.state]}
                    </span>
                  )}
                </span>
                <span className="small muted">
                  <When at={one.createdAt} />
                </span>
              </Link>
            ))}
          </div>
          <div className="bench-body">
            {current && (
              <div className="said" role="status">
                {underWay && <Loader size="xs" />}
                <b>
                  {current.state === 'answered'
                    ? `${current.accepted} accepted, ${current.refused} refused`
                    : stateWords[current.state]}
                </b>
                {current.error && <span className="tone-blocker">{current.error}</span>}
                {stage.byProblem.slice(0, 3).map((problem) => (
                  <span className="small" key={problem.field + problem.text}>
                    <b>{problem.count}×</b> {problem.field}: {problem.text}
                  </span>
                ))}
                <a
                  className="text small"
                  style={{ marginLeft: 'auto' }}
                  href={`/api/submissions/${current.id}/file`}
                  download
                >
                  The file that was sent
                </a>
              </div>
            )}
            {stage.entries.map((entry) => (
              <Link
                className="sent"
                key={entry.sku}
                href={withChange({ sample: entry.sku, field: entry.problems[0]?.field ?? undefined })}
                scroll={false}
                aria-current={entry.sku === query.get('sample')}
              >
                <span
                  className={
                    entry.answer === 'refused'
                      ? 'tone-blocker'
                      : entry.answer === 'accepted'
                        ? 'tone-ready'
                        : 'muted'
                  }
                  style={{ fontWeight: 600 }}
                >
                  {entry.answer}
                </span>
                <span style={{ minWidth: 0 }}>
                  <span className="cut" style={{ display: 'block' }}>
                    {entry.title}
                  </span>
                  <span className="mono muted">{entry.sku}</span>
                </span>
                <span>
                  {entry.problems.map((problem) => (
                    <span key={problem.code} style={{ display: 'block' }}>
                      {problem.label && <b>{problem.label}: </b>}
                      {problem.text} <span className="mono muted">{problem.code}</span>
                    </span>
                  ))}
                </span>
              </Link>
            ))}
          </div>
        </div>
      )}
    </>
  );
}
