'use client';
import { Button, Progress } from '@mantine/core';
import { useInterval } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition } from 'react';
import { startImport, stopImport } from '@/actions/import';
import { counted, formatNumber } from '@/core/formatting/formatting';
import { importAlarmText } from '@/core/import/importReview';
import { type ItemKey, itemKeys, missingWays } from '@/core/import/mapping/importMapping';
import type { Progress as RunProgress, RunRow } from '@/server/import/runs';
import { SavingMark } from '../../kit/display/SavingMark';
import { SelectField } from '../../kit/inputs/inputs';
import { Link } from '../../kit/Link';
import { LinkButton } from '../../kit/LinkButton';
import { blockedMore } from './FeedEffects';
import type { RunFindings } from './runFindings';
import type { RunActs } from './useImportRun';

const stateWords = {
  checking: 'Checking every row; nothing is changed',
  applying: 'Importing items',
  undoing: 'Undoing the run',
} as const;

const keyNames: Record<ItemKey, string> = { sku: 'SKU', gtin: 'GTIN', mpn: "supplier's code" };
const missingNames = { leave: 'left', outOfStock: 'set out of stock', archive: 'archived' } as const;

interface RunBarProps {
  run: RunRow;
  trouble: string | undefined;
  findings: RunFindings;
  acts: RunActs;
}

/** Where the run is, what it found, and the next step. */
export function ImportRunBar({ run, trouble, findings, acts }: RunBarProps) {
  const { counts } = run;
  const { mapping } = acts;
  const ready = mapping.fields[mapping.key] !== undefined;
  const chosen = findings.chosen.new + findings.chosen.changed + findings.chosen.missing;
  const more = run.state === 'checked' ? blockedMore(findings.effects) : 0;
  const reported = run.state === 'checked' || run.state === 'done' || run.state === 'undone';
  return (
    <div className="run-bar" role="status">
      {acts.underWay && <UnderWay run={run} acts={acts} />}
      {run.state === 'checked' && run.alarms && run.alarms.length > 0 && (
        <span className="tone-blocker" role="alert">
          <b>Held for review: check the changes before you import.</b>{' '}
          {run.alarms.map(importAlarmText).join('. ')}.
        </span>
      )}
      {more > 0 && (
        <span className="tone-risk">
          It adds {counted(more, 'blocked listing')}:{' '}
          <Link className="text" href={`/sources/${run.id}?tab=feeds`}>
            see each feed
          </Link>
        </span>
      )}
      {run.error && <span className="tone-blocker">{run.error}</span>}
      {reported && (
        <>
          {run.state === 'undone' && <b>Undone.</b>}
          <span className="tone-ready">
            <b>{formatNumber(counts.new)}</b> new
          </span>
          <span>
            <b>{formatNumber(counts.changed)}</b> changed
          </span>
          <span className="muted">
            <b>{formatNumber(counts.unchanged)}</b> unchanged
          </span>
          {counts.missing > 0 && (
            <span className="muted">
              <b>{formatNumber(counts.missing)}</b> missing
            </span>
          )}
          <span className={counts.rejected > 0 ? 'tone-blocker' : 'muted'}>
            <b>{formatNumber(counts.rejected)}</b> rejected
          </span>
          {counts.rejected > 0 && (
            <a className="text small" href={`/api/runs/${run.id}/rejected`} download>
              Export them with reasons
            </a>
          )}
        </>
      )}
      {run.state === 'uploaded' && (
        <>
          <SelectField
            name="Items are matched by"
            value={mapping.key}
            shown="beside"
            options={itemKeys.map((key) => [key, keyNames[key]])}
            disabled={acts.busy}
            onChange={(key) => acts.change({ edit: 'key', key: key as ItemKey })}
          />
          <SelectField
            name="Missing items:"
            value={mapping.missing}
            shown="beside"
            options={missingWays.map((route) => [route, missingNames[route]])}
            disabled={acts.busy}
            onChange={(missing) =>
              acts.change({ edit: 'missing', missing: missing as (typeof missingWays)[number] })
            }
          />
          {!ready && (
            <span className="tone-blocker">
              Choose the column of the {keyNames[mapping.key]}: items are matched by it.
            </span>
          )}
        </>
      )}
      <span className="acts">
        <SavingMark lane={acts.lane} />
        {(run.state === 'uploaded' || run.state === 'failed') && (
          <Button
            disabled={!ready || acts.busy || trouble !== undefined}
            onClick={() => acts.act((press) => startImport(run.id, 'check', press))}
          >
            Check all rows
          </Button>
        )}
        {run.state === 'checked' && (
          <Button
            disabled={acts.busy || chosen === 0}
            onClick={() => acts.act((press) => startImport(run.id, 'apply', press))}
          >
            {chosen === 0 ? 'Nothing to import' : `Import ${counted(chosen, 'item')}`}
          </Button>
        )}
        {run.state === 'done' && (
          <>
            <Button
              variant="default"
              disabled={acts.busy}
              onClick={() => acts.act((press) => startImport(run.id, 'undo', press))}
            >
              Undo this run
            </Button>
            <LinkButton href="/">Go to Overview</LinkButton>
          </>
        )}
        {(run.state === 'done' || run.state === 'undone') && (
          <Link className="text" href="/sources">
            All sources
          </Link>
        )}
      </span>
    </div>
  );
}

/** Live progress with an estimate; the page is drawn anew when the run has come on. */
function UnderWay({ run, acts }: { run: RunRow; acts: RunActs }) {
  const router = useRouter();
  const [progress, setProgress] = useState<RunProgress>();
  const begun = useRef(Date.now());
  const [moving, startMoving] = useTransition();
  const requested = useRef({ at: 0, moving: false });
  requested.current.moving = moving;
  const waiting = () => requested.current.moving || Date.now() - requested.current.at < 1000;
  const poll = useInterval(async () => {
    // A page that is being drawn anew is not asked for again: drawing a large catalog takes longer than the interval.
    if (waiting()) return;
    const answer = await fetch(`/api/runs/${run.id}`).then((response) => response.json());
    setProgress(answer);
    if (answer.state === run.state || waiting()) return;
    requested.current.at = Date.now();
    startMoving(() => router.refresh());
  }, 350);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the interval object is new at each render
  useEffect(() => {
    begun.current = Date.now();
    poll.start();
    return poll.stop;
  }, [run.state]);
  const share = progress?.share ?? 0;
  const passed = (Date.now() - begun.current) / 1000;
  const left = share > 0.05 && passed > 3 ? Math.ceil((passed / share) * (1 - share)) : undefined;
  return (
    <>
      <span>{stateWords[run.state as keyof typeof stateWords]}</span>
      <Progress value={share * 100} style={{ width: 220 }} aria-label="Progress" />
      <span className="muted">
        {Math.round(share * 100)} %{progress && progress.done > 0 && `, ${formatNumber(progress.done)} rows`}
        {left !== undefined && `, about ${left} s left`}
      </span>
      <span className="muted small">You can leave this page; the import continues.</span>
      <Button
        variant="default"
        size="compact-sm"
        onClick={() => acts.act((press) => stopImport(run.id, press))}
      >
        Stop
      </Button>
    </>
  );
}
