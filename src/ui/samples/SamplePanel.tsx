'use client';
import { Tooltip } from '@mantine/core';
import { useHotkeys, useLocalStorage } from '@mantine/hooks';
import {
  IconChevronLeft,
  IconChevronRight,
  IconLayoutSidebarRightCollapse,
  IconPin,
  IconPinnedOff,
} from '@tabler/icons-react';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import type { Refusal } from '@/actions/action';
import { pin, pinRepresentative } from '@/actions/feeds';
import { severityWords } from '@/core/checks/severity';
import type { SampleView } from '@/server/pages/representativeItems';
import { useExpectations } from '../frame/Expectations';
import { Marked } from '../kit/display/Marked';
import { useAddress } from '../kit/hooks/useAddress';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { Picture } from '../kit/Picture';
import { showRefusal } from '../kit/refusals';

/** The sample tray: a real item before and after the draft, its issues, and how its value was made. */
export function SamplePanel({ sample, feed }: { sample: SampleView; feed: string }) {
  const { go, withChange, query } = useAddress();
  const fix = query.get('fix');
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [folded, setFolded] = useLocalStorage({ key: 'tray-folded', defaultValue: false });
  const { expect } = useExpectations(feed);
  const show = (sku: string) => go({ sample: sku });
  useHotkeys([
    ['ArrowLeft', () => show(sample.previous)],
    ['ArrowRight', () => show(sample.next)],
  ]);
  const change = (work: () => Promise<{ ok: true } | Refusal>) =>
    startBusy(async () => {
      const answer = await work();
      if (!answer.ok) showRefusal(answer.words);
      router.refresh();
    });
  if (folded)
    return (
      <aside className="tray folded" aria-label="Sample">
        <button
          type="button"
          className="plain"
          aria-label="Expand the sample panel"
          onClick={() => setFolded(false)}
        >
          <IconChevronLeft size={18} />
        </button>
      </aside>
    );
  const { field } = sample;
  return (
    <aside className="tray" aria-label="Sample" aria-busy={busy}>
      <div className="tray-head">
        <h2>{sample.position > 0 ? `Sample ${sample.position} of ${sample.count}` : 'Not pinned'}</h2>
        <button
          type="button"
          className="plain"
          aria-label="Previous sample"
          onClick={() => show(sample.previous)}
        >
          <IconChevronLeft size={16} />
        </button>
        <button type="button" className="plain" aria-label="Next sample" onClick={() => show(sample.next)}>
          <IconChevronRight size={16} />
        </button>
        <Tooltip label={sample.pinned ? 'Unpin this item' : 'Pin this item'}>
          <button
            type="button"
            className="plain"
            aria-label={sample.pinned ? 'Unpin this item' : 'Pin this item'}
            onClick={() => change(() => pin(sample.sku, !sample.pinned))}
          >
            {sample.pinned ? <IconPinnedOff size={15} /> : <IconPin size={15} />}
          </button>
        </Tooltip>
        <Tooltip label="Pins the longest title, the most issues, and each category's first">
          <TextButton small onClick={() => change(() => pinRepresentative(feed))}>
            Suggest samples
          </TextButton>
        </Tooltip>
        <button
          type="button"
          className="plain"
          aria-label="Collapse the sample panel"
          onClick={() => setFolded(true)}
        >
          <IconLayoutSidebarRightCollapse size={15} />
        </button>
      </div>
      <div className="who">
        <Picture file={sample.picture} name={sample.name} size={62} />
        <div style={{ minWidth: 0 }}>
          <Link
            href={`/items/${encodeURIComponent(sample.sku)}`}
            className="clamp2"
            style={{ fontWeight: 600 }}
          >
            {sample.name}
          </Link>
          <div className="mono muted cut">{sample.sku}</div>
          <div className="small muted cut">{sample.origin}</div>
          <Link
            className="text small"
            href={`/feeds/${feed}/listings?${new URLSearchParams({ item: sample.sku, ...(fix && { fix }) })}`}
          >
            Open the listing
          </Link>
        </div>
      </div>
      <div className="small muted">
        {field.label}, {field.published ? 'published → draft' : 'draft, nothing published yet'}
      </div>
      <div className="before-after">
        {field.changed ? (
          <>
            <div>
              <span className="label">was</span>
              {field.before === '' ? '(empty)' : <Marked pieces={field.pieces} only="before" />}
            </div>
            <div>
              <span className="label">will be</span>
              {field.after === '' ? '(empty)' : <Marked pieces={field.pieces} only="after" />}
            </div>
          </>
        ) : (
          <div>
            <span className="label">stays</span>
            {field.after || '(empty)'}
          </div>
        )}
      </div>
      <div className="small">
        <TextButton
          onClick={() =>
            expect(
              { expect: 'value', sku: sample.sku, field: field.code, value: field.after },
              `${field.label} of this listing is now an expectation.`,
            )
          }
        >
          Add expectation
        </TextButton>
      </div>
      <h2 className="part">Issues</h2>
      {sample.state === 'leftOut' && <div className="muted">Excluded: {sample.reason}</div>}
      {sample.state !== 'leftOut' && sample.issues.length === 0 && (
        <div className="tone-ready">None. This listing is ready.</div>
      )}
      {sample.issues.map((issue) => (
        <div className="issue" key={issue.words + issue.mark}>
          <span className={`severity tone-${issue.severity}`}>{severityWords[issue.severity]}</span>
          <Link href={withChange({ field: issue.field })} scroll={false}>
            {issue.words}
            {issue.mark && <span className="mark"> ({issue.mark})</span>}
          </Link>
        </div>
      ))}
      {sample.standing.problems.map(({ words, field: about, refused }) => (
        <div className="issue" key={words}>
          <span className={refused ? 'severity tone-blocker' : 'severity tone-risk'}>
            {refused ? 'rejected there' : 'warning there'}
          </span>
          {about ? (
            <Link href={withChange({ field: about })} scroll={false}>
              {words}
            </Link>
          ) : (
            words
          )}
        </div>
      ))}
      <div className="small muted">
        At the channel: {sample.standing.words}
        {sample.standing.number && <span className="mono"> {sample.standing.number}</span>}
      </div>
      <h2 className="part">How {field.label} was made</h2>
      <ol className="thread">
        {sample.thread.map((step, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: knots have no other identity than their place in the thread
          <li key={i}>
            {step.value !== '' && (
              <div className={step.value.length > 40 ? 'value long' : 'value'}>
                {step.pieces ? <Marked pieces={step.pieces} /> : step.value}
              </div>
            )}
            <div className="words">{step.words}</div>
          </li>
        ))}
      </ol>
    </aside>
  );
}
