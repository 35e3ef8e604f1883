'use client';
import dynamic from 'next/dynamic';
import { formatDate, formatNumber } from '@/core/formatting/formatting';
import { durationText } from '@/core/schedule/duration';
import type { Insights } from '@/server/submissions/list';
import { Bar } from '../kit/display/Bar';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { LinkButton } from '../kit/LinkButton';
import { ink } from '../theme/ink';
import './submissions.css';

const Chart = dynamic(() => import('react-apexcharts'), {
  ssr: false,
  loading: () => <div style={{ height: 240 }} />,
});

/** Shades for lines that stand beside each other; what a line is, its name beside it says as well. */
/** Feeds have colours of their own, apart from those of states. */
const shades = [
  '--feed-1',
  '--feed-2',
  '--feed-3',
  '--feed-4',
  '--feed-5',
  '--feed-6',
  '--feed-7',
  '--feed-8',
] as const;

const spans = ['7', '30', '90', '365'] as const;
const spanWords: Record<(typeof spans)[number], string> = {
  7: 'A week',
  30: 'A month',
  90: 'A quarter',
  365: 'A year',
};

const percent = (share: number): string => `${Math.round(share * 1000) / 10} %`;

/** What came of what was sent: whether it gets better, why listings were refused, and how long channels take. */
export function InsightsPage({ insights }: { insights: Insights }) {
  const { go } = useAddress();
  const { feeds, causes } = insights;
  const shares = feeds.flatMap(({ days }) =>
    days.map(({ accepted, refused }) => (100 * accepted) / Math.max(1, accepted + refused)),
  );
  // The axis ends at twenty, forty, … below which nothing is.
  const lowest = Math.min(80, Math.floor(Math.min(100, ...shares) / 20) * 20);
  const most = Math.max(1, ...causes.map(({ count }) => count));
  return (
    <>
      <div className="bench-head" style={{ paddingInline: 0 }}>
        <FilterChips
          options={spans.map((days) => [days, spanWords[days]])}
          current={spans.find((days) => Number(days) === insights.days) ?? '30'}
          onPick={(days) => go({ days })}
        />
      </div>
      {feeds.length === 0 ? (
        <div className="panel">
          <Empty title="No results in this period.">
            <LinkButton href="/submissions">Show submissions</LinkButton>
          </Empty>
        </div>
      ) : (
        <div className="insights">
          <section className="panel wide" aria-label="Accepted share">
            <h2>Accepted share per day</h2>
            <Chart
              type="line"
              height={240}
              series={feeds.map(({ name, days }) => ({
                name,
                data: days.map(({ day, accepted, refused }) => ({
                  x: Date.parse(day),
                  y: Math.round((1000 * accepted) / Math.max(1, accepted + refused)) / 10,
                })),
              }))}
              options={{
                chart: {
                  toolbar: { show: false },
                  animations: { enabled: false },
                  zoom: { enabled: false },
                  fontFamily: 'inherit',
                },
                colors: feeds.map((_, at) => ink(shades[at % shades.length] ?? '--feed-1')),
                stroke: { width: 2 },
                markers: { size: 4, strokeWidth: 0 },
                grid: { borderColor: ink('--line') },
                legend: { position: 'right', labels: { colors: ink('--ink') } },
                xaxis: {
                  type: 'datetime',
                  labels: {
                    formatter: (_day: string, at?: number) => formatDate(new Date(at ?? 0), 'UTC'),
                    style: { colors: ink('--muted') },
                  },
                },
                yaxis: {
                  max: 100,
                  min: lowest,
                  tickAmount: (100 - lowest) / 20,
                  labels: {
                    formatter: (share: number) => `${Math.round(share)} %`,
                    style: { colors: ink('--muted') },
                  },
                },
                tooltip: { theme: 'light', y: { formatter: (share: number) => `${share} %` } },
              }}
            />
          </section>
          <section className="panel" aria-label="Feeds">
            <h2>By feed</h2>
            <table className="plain">
              <thead>
                <tr>
                  <th>Feed</th>
                  <th>Accepted</th>
                  <th>Rejected</th>
                  <th>Foreseen</th>
                  <th>Time to result</th>
                </tr>
              </thead>
              <tbody>
                {feeds.map(({ code, name, accepted, refused, foreseen, seconds }) => (
                  <tr key={code}>
                    <td>{name}</td>
                    <td className="number">{percent(accepted / Math.max(1, accepted + refused))}</td>
                    <td className={`number ${refused > 0 ? 'tone-blocker' : 'muted'}`}>
                      {formatNumber(refused)}
                    </td>
                    <td className="number" title="Rejections of a field that our checks had reported">
                      {refused === 0 ? '–' : `${foreseen} of ${refused}`}
                    </td>
                    <td className="number">{seconds === undefined ? '–' : durationText(seconds)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <section className="panel" aria-label="Rejections">
            <h2>Reasons of rejections</h2>
            {causes.length === 0 && <p className="muted">No rejections.</p>}
            <table className="plain">
              <tbody>
                {causes.map(({ feed, code, text, count }) => (
                  <tr key={`${feed} ${code}`}>
                    <td>
                      {text}
                      <div className="small muted">
                        {feed}
                        {code && <span className="mono"> {code}</span>}
                      </div>
                    </td>
                    <td>
                      <Bar segments={[{ share: count / most, kind: 'blocked' }]} />
                    </td>
                    <td className="number">{formatNumber(count)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </div>
      )}
    </>
  );
}
