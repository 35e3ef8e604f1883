'use client';
import { Button, FileButton } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { Told } from '@/actions/action';
import { acceptVersion, dropVersionOf, openVersionOf } from '@/actions/channels';
import { counted } from '@/core/formatting/formatting';
import type { VersionLine } from '@/server/channels/channels';
import type { EffectLine, FeedEffect, VersionReview } from '@/server/evaluation/sheetReview';
import { When } from '../kit/display/When';
import { textOfFile } from '../kit/inputs/textOfFile';
import { Link } from '../kit/Link';
import { clearRefusal, showRefusal } from '../kit/refusals';
import './channels.css';
import { Empty } from '../kit/Empty';
import { TextButton } from '../kit/inputs/TextButton';

interface VersionsPageProps {
  code: string;
  name: string;
  versions: readonly VersionLine[];
  current: number | undefined;
  /** Of the open version. */
  revision: number | undefined;
  review: VersionReview | undefined;
}

/** The versions of a channel's sheet: what the open one changes and breaks, and those before it. */
export function VersionsPage({ code, name, versions, current, revision, review }: VersionsPageProps) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const run = (work: () => Promise<Told<object>>, words: string, to?: string) =>
    startBusy(async () => {
      const answer = await work();
      if (answer.ok) {
        clearRefusal();
        notifications.show({ message: words });
      } else showRefusal(answer.words);
      if (answer.ok && to) router.push(to);
      router.refresh();
    });
  const bringIn = (file: File | null) => {
    if (!file) return;
    run(
      async () => openVersionOf(code, { text: await textOfFile(file), taxonomy: undefined }),
      'A new version waits for review.',
    );
  };
  const broken = review?.feeds.reduce((sum, feed) => sum + feed.broken.length, 0) ?? 0;
  return (
    <>
      <header className="page-head">
        <h1>{name}: versions</h1>
        <span className="sub">
          {current === undefined ? 'none in use yet' : `version ${current} is in use`}
          {review && `; version ${review.version} takes effect on ${review.effective}`}
        </span>
        <div className="acts">
          {!review && (
            <FileButton onChange={bringIn} accept=".json,application/json">
              {(props) => (
                <Button variant="default" disabled={busy} {...props}>
                  Import a version
                </Button>
              )}
            </FileButton>
          )}
          <Link className="text" href={current === undefined ? '/channels' : `/channels/${code}`}>
            {current === undefined ? 'All channels' : 'The sheet in use'}
          </Link>
        </div>
      </header>
      <div className="version-grid">
        <section className="panel scrolling" aria-label="Changes">
          <div className="bench-head">
            <h2 className="grow">
              {review
                ? review.follows === undefined
                  ? `Version ${review.version} is the first`
                  : `Version ${review.version} changes ${counted(review.changes.length, 'thing')}`
                : 'No version to review'}
            </h2>
          </div>
          {review ? (
            <>
              <ul className="change-list">
                {review.changes.map((change) => (
                  <li key={change.words}>{change.words}</li>
                ))}
              </ul>
              {review.follows !== undefined && review.changes.length === 0 && (
                <Empty title="It has the same requirements as the version in use." />
              )}
              <div className="row sheet-foot">
                <Button
                  disabled={busy || revision === undefined}
                  onClick={() =>
                    revision !== undefined &&
                    run(
                      () => acceptVersion(code, revision),
                      `Version ${review.version} is in use.`,
                      `/channels/${code}`,
                    )
                  }
                >
                  Accept version {review.version}
                </Button>
                <Button variant="default" component={Link} href={`/channels/${code}/edit`}>
                  Edit it
                </Button>
                <DropVersion
                  onDrop={() =>
                    run(
                      () => dropVersionOf(code),
                      'The version is deleted.',
                      current === undefined ? '/channels' : undefined,
                    )
                  }
                />
              </div>
            </>
          ) : (
            <Empty title="The sheet in use is the newest.">
              <Link className="text" href={`/channels/${code}/edit`}>
                Edit it as a new version
              </Link>
            </Empty>
          )}
        </section>
        <div className="item-side">
          {review && review.feeds.length > 0 && (
            <section className="panel block" aria-label="Effect on listings">
              <h2 className={broken > 0 ? 'tone-blocker' : 'tone-ready'}>
                {broken === 0
                  ? 'No listing breaks'
                  : `${counted(broken, 'listing breaks', 'listings break')}`}
              </h2>
              {review.feeds.map((effect) => (
                <Effect key={effect.feed} effect={effect} />
              ))}
            </section>
          )}
          <section className="panel block" aria-label="All versions">
            <h2>All versions</h2>
            {versions.map(({ version, effective, takenOnAt }) => (
              <span className="row" key={version}>
                <b>{version}</b>
                <span className="grow">
                  from {effective}
                  {takenOnAt ? (
                    <span className="muted">
                      , accepted <When at={takenOnAt} />
                    </span>
                  ) : (
                    <span className="draft-mark version-open">open</span>
                  )}
                </span>
                <a className="text" href={`/api/channels/${code}?version=${version}`} download>
                  Sheet
                </a>
                <a className="text" href={`/api/channels/${code}?version=${version}&part=tree`} download>
                  Tree
                </a>
              </span>
            ))}
          </section>
        </div>
      </div>
    </>
  );
}

function Effect({ effect }: { effect: FeedEffect }) {
  return (
    <div>
      <Link href={`/feeds/${effect.feed}/checks`}>
        <b>{effect.name}</b>
      </Link>{' '}
      <span className="muted">
        {effect.total} listings, {effect.broken.length} break, {effect.worse.length} get new blockers,{' '}
        {effect.mended.length} become ready
      </span>
      <Lines lines={effect.broken} feed={effect.feed} />
      {effect.worse.length > 0 && (
        <details>
          <summary>{effect.worse.length} already blocked, with further blockers</summary>
          <Lines lines={effect.worse} feed={effect.feed} />
        </details>
      )}
    </div>
  );
}

function Lines({ lines, feed }: { lines: readonly EffectLine[]; feed: string }) {
  const [all, setAll] = useState(false);
  const shown = all ? lines : lines.slice(0, 12);
  return (
    <ul className="effect-list">
      {shown.map(({ sku, words }) => (
        <li key={sku}>
          <Link className="mono" href={`/feeds/${feed}/checks?sample=${encodeURIComponent(sku)}`}>
            {sku}
          </Link>{' '}
          <span className="tone-blocker">{words.join('; ')}</span>
        </li>
      ))}
      {shown.length < lines.length && (
        <li>
          <TextButton onClick={() => setAll(true)}>Show all {lines.length}</TextButton>
        </li>
      )}
    </ul>
  );
}

function DropVersion({ onDrop }: { onDrop(): void }) {
  const [sure, setSure] = useState(false);
  return sure ? (
    <span className="row">
      Its changes will be lost.
      <Button color="red" variant="default" onClick={onDrop}>
        Delete version
      </Button>
      <TextButton onClick={() => setSure(false)}>Cancel</TextButton>
    </span>
  ) : (
    <TextButton onClick={() => setSure(true)}>Drop …</TextButton>
  );
}
