'use client';
import { Button } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useEffect, useState } from 'react';
import { severityWords } from '@/core/checks/severity';
import { formatNumber, plural } from '@/core/formatting/formatting';
import type { CheckGroup } from '@/server/fixes/checkGroups';
import type { WorkbookReport } from '@/server/pages/workbook';
import type { ChecksStage } from '@/server/stages/checks';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { Ahead } from './FixPlan';
import { useCalculated } from './useCalculated';
import './checks.css';
import { Empty } from '../kit/Empty';
import { SearchField, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Completeness } from './Completeness';
import { OpenFix } from './OpenFix';
import { OwnCheckForm } from './OwnCheckForm';
import { OverrideLine, SeverityOverrides } from './SeverityOverrides';
import { ImportedWorkbook, Spreadsheet } from './Spreadsheet';

const states = [
  ['', 'All'],
  ['blocked', 'Blocked'],
  ['ready', 'Ready'],
  ['leftOut', 'Excluded'],
] as const;

/** The Checks stage: what would free most listings first, and the listings behind each figure. */
export function ChecksStagePage({ stage }: { stage: ChecksStage }) {
  const { query, go, withChange } = useAddress();
  const { feed } = useDraft();
  /** What the last fix did; the list goes on to the next one. */
  const [done, setDone] = useState('');
  const failed = useCalculated(feed, stage, query.get('fix'));
  const [report, setReport] = useState<WorkbookReport>();
  const search = useDebouncedCallback((find: string) => go({ find: find || undefined }), 200);
  const fix = stage.groups.find(({ key }) => key === query.get('fix'));
  const sample = query.get('sample');
  const blockers = stage.groups.filter(({ severity }) => severity === 'blocker');
  const others = stage.groups.filter(({ severity }) => severity !== 'blocker');
  const [next] = blockers;
  const cleared = done !== '' && query.get('fix') !== null && fix === undefined;
  useEffect(() => {
    if (cleared) go({ fix: next?.key, field: next?.field });
  }, [cleared, next?.key, next?.field, go]);
  const line = (group: CheckGroup) => (
    <Group
      key={group.key}
      group={group}
      here={group.key === fix?.key}
      href={withChange({
        own: undefined,
        complete: undefined,
        fix: group.key === fix?.key ? undefined : group.key,
        field: group.field,
        show: undefined,
      })}
    />
  );
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={states}
          current={states.find(([key]) => key === query.get('show'))?.[0] ?? ''}
          onPick={(key) => go({ show: key || undefined })}
        />
        <SelectField
          name="Category"
          value={query.get('category') ?? ''}
          options={[
            ['', 'Every category'] as const,
            ...stage.categories.map(
              (category) => [category || '-', category || 'Without a category'] as const,
            ),
          ]}
          onChange={(text) => go({ category: text || undefined })}
        />
        <Spreadsheet feed={feed} onReport={setReport} />
        <SearchField name="Find an item" start={query.get('find') ?? ''} onFind={search} width={130} />
      </div>
      <div className="checks-grid">
        <div className="fixes">
          {stage.path.length > 1 && !fix && <Ahead stage={stage} failed={failed} />}
          <h2>Suggested fixes, the most useful first</h2>
          {blockers.length === 0 && (
            <p style={{ padding: '4px 12px' }} className="tone-ready">
              None. Every listing in scope is ready.
            </p>
          )}
          {blockers.map(line)}
          {others.length > 0 && <h2>Warnings and tips</h2>}
          {others.map(line)}
          <Link
            href={withChange({ complete: '1', fix: undefined, field: undefined, own: undefined })}
            scroll={false}
            aria-current={stage.complete !== undefined}
          >
            <span style={{ fontWeight: 600 }}>Completeness</span>
            <span />
            <span className="small muted">recommended values beyond the required ones</span>
          </Link>
          <div className="row own-head">
            <h2 className="grow">Own checks</h2>
            <TextButton onClick={() => go({ own: 'new', fix: undefined, field: undefined })}>
              Add own check
            </TextButton>
          </div>
          {stage.own.map(({ id, words, severity }) => (
            <Link
              key={id}
              href={withChange({ own: id, fix: undefined, field: undefined })}
              scroll={false}
              aria-current={stage.ownOpen?.id === id}
            >
              <span style={{ fontWeight: 600 }}>{words}</span>
              <span className={`small tone-${severity}`}>{severityWords[severity]}</span>
            </Link>
          ))}
          {stage.said.length > 0 && <h2>Own check</h2>}
          {stage.said.map((stated) => (
            <OverrideLine key={stated.waiver ?? stated.key} said={stated} />
          ))}
        </div>
        <div className="bench-body">
          {stage.complete && <Completeness view={stage.complete} />}
          {report && <ImportedWorkbook report={report} onClose={() => setReport(undefined)} />}
          {done && (
            <p className="common-issue" role="status">
              <b className="tone-ready">{done}</b>{' '}
              {fix ? `Next: ${fix.title}.` : blockers.length === 0 ? 'Nothing is blocked any longer.' : ''}
            </p>
          )}
          {fix && <OpenFix fix={fix} stage={stage} failed={failed} onDone={setDone} />}
          {stage.ownOpen && <OwnCheckForm key={stage.ownOpen.id} open={stage.ownOpen} />}
          {stage.open && !stage.open.fixed && <SeverityOverrides key={stage.open.key} open={stage.open} />}
          {stage.listings.length === 0 && (
            <Empty title="No listing matches.">
              <Button
                variant="default"
                onClick={() =>
                  go({
                    fix: undefined,
                    category: undefined,
                    show: undefined,
                    find: undefined,
                    field: undefined,
                  })
                }
              >
                Show all listings
              </Button>
            </Empty>
          )}
          {stage.common.map(({ key, title, severity, listings }) => (
            <p key={key} className="common-issue">
              <b className={`tone-${severity}`}>{severityWords[severity]}</b> {title} on{' '}
              {formatNumber(listings)} of {formatNumber(stage.taken)} listings.{' '}
              <Link className="text" href={withChange({ fix: key })} scroll={false}>
                Show the fix
              </Link>
            </p>
          ))}
          {stage.listings.map((listing) => (
            <Link
              key={listing.sku}
              className="checked"
              href={withChange({ sample: listing.sku })}
              scroll={false}
              aria-current={listing.sku === sample}
            >
              <span style={{ minWidth: 0 }}>
                <span className="clamp2" style={{ fontWeight: 600 }} title={listing.name}>
                  {listing.name || listing.sku}
                </span>
                <span className="mono muted cut" style={{ display: 'block' }}>
                  {listing.sku}
                </span>
              </span>
              <span>
                {listing.issues.map((issue) => (
                  <span key={issue.words} style={{ display: 'block' }}>
                    <span className={`tone-${issue.severity}`} style={{ fontWeight: 600 }}>
                      {severityWords[issue.severity]}
                    </span>{' '}
                    {issue.words}
                  </span>
                ))}
                {listing.issues.length === 0 && (
                  <span className={listing.state === 'ready' ? 'tone-ready' : 'muted'}>{listing.state}</span>
                )}
              </span>
              <span className="small muted">
                {listing.answer === undefined ? 'not sent' : listing.answer}
              </span>
            </Link>
          ))}
          {stage.total > stage.listings.length && (
            <p className="muted" style={{ padding: '8px 12px' }}>
              The first {stage.listings.length} of {stage.total}. Filter to see others.
            </p>
          )}
        </div>
      </div>
    </>
  );
}

function Group({ group, here, href }: { group: CheckGroup; here: boolean; href: string }) {
  return (
    <Link href={href} scroll={false} aria-current={here}>
      <span style={{ fontWeight: 600 }}>{group.title}</span>
      {group.frees > 0 ? (
        <span className="frees">
          {group.tried ? `makes ${group.frees} ready` : `only blocker of ${group.frees}`}
        </span>
      ) : (
        <span />
      )}
      <span className="small muted">
        <span className={`tone-${group.severity}`}>{severityWords[group.severity]}</span> on {group.listings}{' '}
        {plural(group.listings, 'listing')}
      </span>
    </Link>
  );
}
