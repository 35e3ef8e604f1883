import { formatNumber } from '@/core/formatting/formatting';
import type { Coverage } from '@/core/listing/coverage';
import { Bar } from './Bar';

/** Filled, failing and empty over the items in scope, with the count that is filled. */
export function CoverageBar({ coverage }: { coverage: Coverage }) {
  const { filled, failing, missing, total } = coverage;
  const share = (count: number) => (total === 0 ? 0 : count / total);
  const bad = failing + missing;
  const shown = (count: number) => formatNumber(count);
  return (
    <span
      className="coverage"
      title={`${shown(filled)} filled, ${shown(failing)} failing, ${shown(missing)} missing of ${shown(total)}`}
    >
      <Bar
        wide
        segments={[
          { share: share(filled), kind: 'ready' },
          { share: share(bad), kind: 'blocked' },
        ]}
      />
      <span className={bad > 0 ? 'number tone-blocker' : 'number'}>
        {filled + failing === 0 && missing > 0 ? `0 of ${shown(missing)}` : shown(filled + failing)}
      </span>
    </span>
  );
}
