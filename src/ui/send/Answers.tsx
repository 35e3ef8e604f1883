'use client';
import { Button, FileButton, Loader } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { answerAll, answerWithFile, send } from '@/actions/submissions';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { SendStage, SubmissionCard } from '@/server/stages/send';
import { useDraft } from '../draft/useDraft';
import type { Action } from '../kit/hooks/useAction';
import { useAddress } from '../kit/hooks/useAddress';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { answerLabels, isUnderWay, stateLabels } from './stateLabels';

/** What came of one submission, listing by listing, each problem at the field it is about. */
export function Answers({
  stage,
  current,
  doing,
}: {
  stage: SendStage;
  current: SubmissionCard;
  doing: Action;
}) {
  const { query, withChange } = useAddress();
  const draft = useDraft();
  const working = isUnderWay(current.state) && current.state !== 'held' && stage.bySelf;
  const silent = stage.entries.filter(({ answer }) => answer === 'silent' || answer === 'failed');
  return (
    <>
      <div className="said" role="status">
        {working && <Loader size="xs" />}
        <b>
          {current.state === 'answered'
            ? `${current.accepted} accepted, ${current.refused} rejected`
            : stateLabels[current.state]}
        </b>
        {current.remarks > 0 && <span className="small">{current.remarks} with warnings</span>}
        {stage.byProblem.slice(0, 3).map((problem) => (
          <span className="small" key={problem.field + problem.text}>
            <b>{problem.count}×</b> {problem.field && `${problem.field}: `}
            {problem.text}{' '}
            <Link
              className="text"
              href={`/feeds/${draft.feed}/checks?${new URLSearchParams({ own: 'new', about: problem.code, words: problem.text.slice(0, 200) })}`}
            >
              Check it before sending
            </Link>
          </span>
        ))}
        {silent.length > 0 && (
          <TextButton
            onClick={() => doing.run(send(draft.feed, { only: silent.map(({ sku }) => sku) }))}
            disabled={doing.busy}
          >
            Send {counted(silent.length, 'listing')} again
          </TextButton>
        )}
        <span className="row small" style={{ marginLeft: 'auto' }}>
          {Array.from({ length: Math.min(current.files, 3) }, (_, at) => (
            <a
              // biome-ignore lint/suspicious/noArrayIndexKey: files are told apart by their place alone
              key={at}
              className="text"
              href={`/api/submissions/${current.id}/files/${at}`}
              download
            >
              {`File ${at + 1} of ${current.files}`}
            </a>
          ))}
          {current.files > 3 && <span className="muted">of {current.files}</span>}
        </span>
      </div>
      {!stage.bySelf && current.state === 'waiting' && <ByHand id={current.id} doing={doing} />}
      <div className="bench-body">
        {stage.entries.map((entry) => {
          const [words, tone] = answerLabels[entry.answer];
          const inside = (
            <>
              <span className={tone} style={{ fontWeight: 600 }}>
                {words}
              </span>
              <span style={{ minWidth: 0 }}>
                <span className="cut" style={{ display: 'block' }}>
                  {entry.title}
                </span>
                <span className="mono muted">
                  {entry.sku}
                  {entry.lead && ' (parent)'}
                </span>
              </span>
              <span>
                {entry.problems.map((problem) => (
                  <span key={problem.code + problem.text} style={{ display: 'block' }}>
                    {problem.label && <b>{problem.label}: </b>}
                    {problem.text} <span className="mono muted">{problem.code}</span>
                  </span>
                ))}
              </span>
            </>
          );
          return entry.lead ? (
            <div className="sent" key={entry.sku}>
              {inside}
            </div>
          ) : (
            <Link
              className="sent"
              key={entry.sku}
              href={withChange({ sample: entry.sku, field: entry.problems[0]?.field ?? undefined })}
              scroll={false}
              aria-current={entry.sku === query.get('sample')}
            >
              {inside}
            </Link>
          );
        })}
        {current.total > stage.entries.length && (
          <p className="muted" style={{ padding: '8px 12px' }}>
            The first {stage.entries.length} of {formatNumber(current.total)}, rejected ones first.
          </p>
        )}
      </div>
    </>
  );
}

/** The answer to a file that was uploaded by hand: entered for all, or brought in as the channel gave it. */
function ByHand({ id, doing }: { id: number; doing: Action }) {
  const bring = async (file: File | null) => {
    if (!file) return;
    const answer = await answerWithFile(id, await file.text());
    if (answer.ok)
      notifications.show({
        message: `${counted(answer.read, 'answer')} read; ${answer.rest} still without a result.`,
      });
    doing.run(Promise.resolve(answer));
  };
  return (
    <div className="said">
      <span>
        Upload the file at the channel, then import its result here: JSON, or a table with the columns “key”
        and “result”.
      </span>
      <span className="row" style={{ marginLeft: 'auto' }}>
        <FileButton onChange={bring} accept=".csv,.tsv,.txt,.json">
          {(props) => (
            <Button variant="default" {...props}>
              Import the result
            </Button>
          )}
        </FileButton>
        <TextButton onClick={() => doing.run(answerAll(id, 'accepted'))}>Mark all accepted</TextButton>
        <TextButton onClick={() => doing.run(answerAll(id, 'refused'))}>Mark all rejected</TextButton>
      </span>
    </div>
  );
}
