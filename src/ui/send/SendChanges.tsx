'use client';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { SendStage } from '@/server/stages/send';
import type { ChangeLine } from '@/server/stages/sendChanges';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { SearchField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import './send.css';

interface ChangesProps {
  stage: SendStage;
  /** Sends one listing alone; left out where nothing can be sent now. */
  onSend?(sku: string): void;
}

/** What would change at the channel, a line each. */
export function Changes({ stage, onSend }: ChangesProps) {
  const { query, go, path } = useAddress();
  if (stage.tabs.length === 0)
    return (
      <Empty title={stage.published ? 'Everything is sent.' : 'Nothing can be sent yet.'}>
        <span className="muted">
          {stage.published
            ? 'Later changes are shown here, value by value, before they are sent.'
            : 'Publish the feed to see what would be sent.'}
        </span>
        {stage.ready === 0 && stage.blocked > 0 && (
          <Link className="text" href={`${path.replace(/\/send$/, '')}/checks?show=blocked`}>
            Show blockers of {counted(stage.blocked, 'listing')}
          </Link>
        )}
      </Empty>
    );
  const values = !['new', 'mended', 'again', 'renew', 'drafted', 'withdraw', 'refused', 'waiting'].includes(
    stage.tab,
  );
  const mayBeSent = stage.tab !== 'waiting';
  const priced = stage.lines.some(({ change }) => change !== undefined);
  return (
    <>
      <div className="said">
        <FilterChips
          options={stage.tabs.map(({ code, label, count }) => [code, `${label} ${formatNumber(count)}`])}
          current={stage.tab}
          onPick={(show) => go({ show })}
        />
        <SearchField
          name="Find a listing"
          start={query.get('find') ?? ''}
          onFind={(find) => go({ find: find || undefined })}
        />
      </div>
      <div className="bench-body">
        <table className={`plain changes${values ? ' values' : ''}`}>
          <thead>
            <tr>
              <th scope="col">Listing</th>
              {stage.tab === 'all' && <th scope="col">Field</th>}
              <th scope="col" className={priced ? 'amount' : ''}>
                {values || stage.tab === 'withdraw' ? 'At the channel' : ''}
              </th>
              <th scope="col" className={priced ? 'amount' : ''}>
                {values
                  ? 'New value'
                  : stage.tab === 'withdraw'
                    ? 'Cause'
                    : ['new', 'mended', 'again', 'renew', 'drafted'].includes(stage.tab)
                      ? 'Price'
                      : ''}
              </th>
              {priced && (
                <th scope="col" className="amount">
                  Change
                </th>
              )}
              {mayBeSent && <th scope="col" aria-label="Send alone" />}
            </tr>
          </thead>
          <tbody>
            {stage.lines.map((line) => (
              <Line
                key={line.sku + (line.field ?? '')}
                line={line}
                field={stage.tab === 'all'}
                priced={priced}
                onSend={mayBeSent ? onSend : undefined}
              />
            ))}
          </tbody>
        </table>
        {stage.matching > stage.lines.length && (
          <p className="muted" style={{ padding: '8px 12px' }}>
            The first {stage.lines.length} of {formatNumber(stage.matching)}. Find to see others.
          </p>
        )}
      </div>
    </>
  );
}

/** From this change on a price is looked at twice. In per cent. */
const striking = 30;

function Line({
  line,
  field,
  priced,
  onSend,
}: {
  line: ChangeLine;
  field: boolean;
  priced: boolean;
  onSend: ((sku: string) => void) | undefined;
}) {
  const { withChange } = useAddress();
  const { change } = line;
  const big = change !== undefined && Math.abs(change) > striking;
  return (
    <tr>
      <td>
        {line.lead ? (
          <span className="whole">
            <span className="clamp2">{line.title}</span>{' '}
            <span className="mono muted">{line.sku}, parent</span>
          </span>
        ) : (
          <Link href={withChange({ sample: line.sku })} scroll={false}>
            <span className="clamp2" title={line.title}>
              {line.title}
            </span>{' '}
            <span className="mono muted">{line.sku}</span>
          </Link>
        )}
      </td>
      {field && <td className="small">{line.field}</td>}
      <td className={line.change === undefined ? 'cut' : 'amount'} title={line.before}>
        {line.before}
      </td>
      <td className={line.change === undefined ? 'cut' : 'amount'} title={line.after}>
        {line.after}
      </td>
      {priced && (
        <td className={big ? 'amount tone-blocker' : 'amount'}>
          {change !== undefined && `${change > 0 ? '+' : ''}${change.toFixed(1)} %`}
        </td>
      )}
      {onSend && (
        <td className="alone">
          {!line.lead && (
            <TextButton small aria-label={`Send ${line.sku} alone`} onClick={() => onSend(line.sku)}>
              Send
            </TextButton>
          )}
        </td>
      )}
    </tr>
  );
}
