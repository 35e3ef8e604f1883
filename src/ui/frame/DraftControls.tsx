'use client';
import { Button, Popover, TextInput, Tooltip } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { type ReactNode, useMemo, useState } from 'react';
import { counted, formatNumber, plural } from '@/core/formatting/formatting';
import type { Impact } from '@/core/listing/impact';
import { type Conflict, DraftContext, DraftQueue, useDraft } from '../draft/useDraft';
import { SavingMark } from '../kit/display/SavingMark';
import { useUndoKey } from '../kit/hooks/useUndoKey';
import { PromptButton } from '../kit/inputs/PromptButton';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { LinkButton } from '../kit/LinkButton';

/** Tells everything below which draft it edits. */
export function DraftScope({
  feed,
  revision,
  children,
}: {
  feed: string;
  revision: number;
  children: ReactNode;
}) {
  const [lanes] = useState(() => new Map<string, DraftQueue>());
  const [conflict, setConflict] = useState<Conflict>();
  const state = useMemo(() => {
    const lane = lanes.get(feed) ?? new DraftQueue(revision);
    lanes.set(feed, lane);
    return { feed, revision, lane, conflict, setConflict };
  }, [feed, revision, lanes, conflict]);
  return <DraftContext.Provider value={state}>{children}</DraftContext.Provider>;
}

/** Somebody else saved in between: what they did, and what becomes of one's own change. */
export function DraftConflict() {
  const { conflict, takeOver, giveUp, busy } = useDraft();
  if (!conflict) return null;
  return (
    <section className="impact" role="alert" aria-label="Someone else changed this draft">
      <span>
        <b>Someone else changed this draft:</b> {conflict.words.join('; ') || 'it was published'}.{' '}
        {conflict.edit ? 'Your change is not saved yet.' : 'Nothing was undone.'}
      </span>
      <span className="acts">
        {conflict.edit && (
          <Button variant="default" disabled={busy} onClick={() => void takeOver()}>
            Apply mine on top
          </Button>
        )}
        <TextButton onClick={giveUp}>{conflict.edit ? 'Discard mine' : 'Close'}</TextButton>
      </span>
    </section>
  );
}

interface DraftButtonsProps {
  changes: number;
  undoWords: string | undefined;
  version: number;
  /** What is expected and does not hold in the draft. */
  broken: readonly string[];
  historyHref: string;
}

export function DraftButtons({ changes, undoWords, version, broken, historyHref }: DraftButtonsProps) {
  const draft = useDraft();
  const takeBack = async () => {
    if (undoWords && (await draft.undo()))
      notifications.show({ message: `Undone: ${undoWords}`, autoClose: 2500 });
  };
  useUndoKey(() => void takeBack());
  const canPublish = changes > 0 || version === 0;
  const [asking, setAsking] = useState(false);
  const [note, setNote] = useState('');
  const publish = async () => {
    setAsking(false);
    if (await draft.publish(note.trim())) {
      setNote('');
      notifications.show({
        message: `Version ${version + 1} is published. Nothing is sent until you press Send.`,
        autoClose: 4000,
      });
    }
  };
  return (
    <>
      <SavingMark lane={draft.lane} />
      {undoWords && (
        <Tooltip label={`Undo: ${undoWords} (Ctrl Z)`}>
          <Button variant="default" onClick={() => void takeBack()} disabled={draft.busy}>
            Undo
          </Button>
        </Tooltip>
      )}
      <LinkButton variant="default" href={historyHref}>
        History
      </LinkButton>
      <Popover opened={asking} onChange={setAsking} position="bottom-end" width={360} trapFocus>
        <Popover.Target>
          <Button
            disabled={!canPublish || draft.busy}
            aria-expanded={asking}
            onClick={() => setAsking(!asking)}
          >
            Publish
          </Button>
        </Popover.Target>
        <Popover.Dropdown>
          <form
            className="stack"
            onSubmit={(event) => {
              event.preventDefault();
              void publish();
            }}
          >
            {broken.length > 0 && (
              <div>
                <b className="tone-blocker">The draft breaks {counted(broken.length, 'expectation')}</b>
                <ul className="broken">
                  {broken.slice(0, 6).map((words) => (
                    <li key={words}>{words}</li>
                  ))}
                </ul>
              </div>
            )}
            <TextInput
              label="Note for History"
              placeholder="optional"
              maxLength={200}
              data-autofocus
              value={note}
              onChange={(event) => setNote(event.currentTarget.value)}
            />
            <div className="row">
              <Button type="submit" disabled={draft.busy}>
                {broken.length > 0 ? 'Publish anyway' : `Publish version ${version + 1}`}
              </Button>
              <TextButton onClick={() => setAsking(false)}>Keep editing</TextButton>
            </div>
          </form>
        </Popover.Dropdown>
      </Popover>
    </>
  );
}

/** The impact bar: what publishing the draft would change, over the whole catalog. */
export function DraftBar({
  impact,
  broken,
  feed,
  published,
}: {
  impact: Impact;
  broken: readonly string[];
  feed: string;
  published: boolean;
}) {
  const draft = useDraft();
  return (
    <section className="impact" aria-label="Impact of the draft">
      <span>
        <b>{formatNumber(impact.changed)}</b> {plural(impact.changed, 'listing changes', 'listings change')}
      </span>
      <span className="tone-ready">
        <b>{formatNumber(impact.cleared)}</b> {plural(impact.cleared, 'blocker clears', 'blockers clear')}
      </span>
      <span className="tone-blocker">
        <b>{formatNumber(impact.appeared)}</b> {plural(impact.appeared, 'appears', 'appear')}
      </span>
      {impact.entries && (
        <span title="Families are listed differently, so the number of entries changes.">
          <b>{formatNumber(impact.entries.before)}</b> entries become{' '}
          <b>{formatNumber(impact.entries.after)}</b>
        </span>
      )}
      <span className="muted small">
        {draft.busy ? 'counting …' : `of ${formatNumber(impact.total)} items, calculated just now`}
      </span>
      {broken.length > 0 && (
        <Link className="tone-blocker small" href={`/feeds/${feed}/history`} title={broken.join('\n')}>
          <b>{broken.length}</b> {plural(broken.length, 'expectation breaks', 'expectations break')}
        </Link>
      )}
      <span className="acts">
        {published && <TextButton onClick={() => void draft.discard()}>Discard</TextButton>}
        {published && (
          <PromptButton
            label="Set aside"
            ask="Name of the draft. Resume it from History at any time."
            onAnswer={(name) => void draft.leave(name)}
          />
        )}
        <LinkButton variant="default" href={`/feeds/${feed}/differences`}>
          See differences
        </LinkButton>
      </span>
    </section>
  );
}
