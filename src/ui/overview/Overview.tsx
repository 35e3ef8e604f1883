import { counted, formatNumber } from '@/core/formatting/formatting';
import type { OverviewCell, OverviewView } from '@/server/pages/overview';
import { When } from '../kit/display/When';
import { Link } from '../kit/Link';
import { LinkButton } from '../kit/LinkButton';
import './overview.css';

function Stack({ cell, items }: { cell: OverviewCell; items: number }) {
  const share = (count: number) => `${(count / Math.max(1, items)) * 100}%`;
  const at = (count: number) => `${(count / Math.max(1, items)) * 100}%`;
  return (
    <span
      className="bar stack"
      role="img"
      aria-label={`${cell.ready} ready, ${cell.blocked} blocked, ${cell.leftOut} excluded`}
    >
      <i className="ready" style={{ left: 0, width: share(cell.ready) }} />
      <i className="blocked" style={{ left: at(cell.ready), width: share(cell.blocked) }} />
      <i className="leftout" style={{ left: at(cell.ready + cell.blocked), width: share(cell.leftOut) }} />
    </span>
  );
}

/** The first page: the merchant's categories against the feeds, and what most deserves attention now. */
export function Overview({ board }: { board: OverviewView }) {
  const [first] = board.fixes;
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Overview</h1>
        <span className="sub">
          {formatNumber(board.items)} items in {formatNumber(board.families)} families,{' '}
          {counted(board.feeds.length, 'feed')}
        </span>
        <div className="acts">
          <LinkButton variant="default" href="/sources">
            Import items
          </LinkButton>
          {board.feeds[0] && (
            <LinkButton href={`/feeds/${board.feeds[0].code}/send`}>Send ready listings</LinkButton>
          )}
        </div>
      </header>
      <section className="panel attention" aria-label="Next steps">
        <div>
          <h2>{board.attention.length > 0 ? 'Needs you now' : 'Nothing needs you now'}</h2>
          <ul>
            {board.attention.map(({ kind, label, places }) => (
              <li key={kind}>
                <span className={kind === 'rejected' || kind === 'failed' ? 'tone-blocker' : 'tone-risk'}>
                  {label}
                </span>
                {places.slice(0, 4).map(({ name, count, href }) => (
                  <Link key={name} className="text small" href={href}>
                    {name}
                    {places.length > 1 && ` ${formatNumber(count)}`}
                  </Link>
                ))}
              </li>
            ))}
          </ul>
        </div>
        <div>
          <h2>
            {first
              ? `Best fixes: ${formatNumber(board.frees)} of ${formatNumber(board.blocked)} blocked listings get ready`
              : board.blocked > 0
                ? `${counted(board.blocked, 'listing is', 'listings are')} blocked, each by several issues`
                : 'Nothing is blocked'}
          </h2>
          <ol>
            {board.fixes.map((fix) => (
              <li key={fix.feed + fix.key}>
                <Link href={`/feeds/${fix.feed}/checks?fix=${encodeURIComponent(fix.key)}`}>
                  <b>{formatNumber(fix.frees)}</b>
                  {fix.title} <span className="muted">{fix.name}</span>
                </Link>
              </li>
            ))}
          </ol>
        </div>
      </section>
      <div className="panel" style={{ overflow: 'auto' }}>
        <table className="board-table">
          <thead>
            <tr>
              <th scope="col">Category</th>
              {board.feeds.map((feed) => (
                <th scope="col" key={feed.code}>
                  {feed.name}
                  {feed.failed && (
                    <div className="small tone-blocker" title={feed.failed}>
                      cannot be calculated
                    </div>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {board.rows.map((row) => (
              <tr key={row.category}>
                <th scope="row">
                  {row.category || 'Without a category'} <span className="small muted">{row.items}</span>
                </th>
                {row.cells.map((cell, i) => {
                  const feed = board.feeds[i];
                  return (
                    <td key={feed?.code}>
                      <Link
                        className="cell-link"
                        href={`/feeds/${feed?.code}/checks?category=${encodeURIComponent(row.category || '-')}`}
                      >
                        <Stack cell={cell} items={row.items} />
                        {cell.ready > 0 ? cell.ready : '–'}
                      </Link>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">Last sent</th>
              {board.feeds.map((feed) => (
                <td key={feed.code}>{feed.lastSent ? <When at={feed.lastSent} /> : 'never'}</td>
              ))}
            </tr>
            <tr>
              <th scope="row">Next sending</th>
              {board.feeds.map((feed) => (
                <td key={feed.code}>{feed.next ? <When at={feed.next} /> : 'by hand'}</td>
              ))}
            </tr>
          </tfoot>
        </table>
      </div>
      <div className="legend">
        <span>
          <i style={{ background: 'var(--ready)' }} />
          ready
        </span>
        <span>
          <i style={{ background: 'var(--blocker)' }} />
          blocked
        </span>
        <span>
          <i style={{ background: 'color-mix(in srgb, var(--muted) 38%, var(--rest))' }} />
          excluded
        </span>
        <span>figures: ready listings</span>
      </div>
    </div>
  );
}
