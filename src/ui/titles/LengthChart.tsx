'use client';
import dynamic from 'next/dynamic';
import { ink } from '../theme/ink';

const Chart = dynamic(() => import('react-apexcharts'), {
  ssr: false,
  loading: () => <div style={{ height: 150 }} />,
});

interface LengthChartProps {
  steps: readonly { from: number; to: number; count: number }[];
  most: number;
  phone: number | undefined;
}

/** Titles by their length before fitting, against the limit and the phone's cut. */
export function LengthChart({ steps, most, phone }: LengthChartProps) {
  const colors = {
    primary: ink('--primary'),
    blocker: ink('--blocker'),
    accent: ink('--accent'),
    ink: ink('--ink'),
    muted: ink('--muted'),
  };
  const line = (x: number, color: string, text: string, offsetY: number) => ({
    x,
    borderColor: color,
    strokeDashArray: 0,
    label: {
      text,
      orientation: 'horizontal',
      offsetY,
      borderWidth: 0,
      style: { background: 'transparent', color: colors.ink, fontSize: '10px', fontFamily: 'inherit' },
    },
  });
  return (
    <Chart
      type="bar"
      height={165}
      width={190}
      series={[
        {
          name: 'titles',
          data: steps.map(({ from, to, count }) => ({
            x: (from + to) / 2,
            y: count,
            fillColor: from > most ? colors.blocker : colors.primary,
          })),
        },
      ]}
      options={{
        chart: {
          toolbar: { show: false },
          animations: { enabled: false },
          zoom: { enabled: false },
          parentHeightOffset: 0,
          fontFamily: 'inherit',
        },
        plotOptions: { bar: { columnWidth: '84%' } },
        dataLabels: { enabled: false },
        grid: { show: false, padding: { left: 0, right: 4, top: -6, bottom: -4 } },
        legend: { show: false },
        yaxis: { show: false },
        xaxis: {
          type: 'numeric',
          tickAmount: 3,
          decimalsInFloat: 0,
          axisTicks: { show: false },
          labels: { style: { colors: colors.muted, fontSize: '11px' } },
        },
        tooltip: { x: { formatter: (middle: number) => `about ${Math.round(middle)} long` } },
        annotations: {
          xaxis: [
            ...(phone ? [line(phone, colors.accent, `phone ${phone}`, -2)] : []),
            line(most, colors.ink, `limit ${most}`, 10),
          ],
        },
      }}
    />
  );
}
