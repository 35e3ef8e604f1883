import { Skeleton } from '@mantine/core';
import { feedStages } from '@/core/plans/stages';
import { WorkProgress } from '../kit/display/Progress';
import './calculating.css';

const ROWS = 12;

/** In place of a feed's page that is not there yet: its shape at once, and after a moment what is worked out for it. */
export function Calculating() {
  return (
    <div className="page shaped">
      <div aria-hidden className="page-shape">
        <div className="page-head">
          <Skeleton height={24} width={190} />
          <Skeleton height={16} width={150} />
        </div>
        <div className="shape-stages">
          {feedStages.map(({ key: stage }) => (
            <Skeleton key={stage} height={62} radius={0} animate={false} />
          ))}
        </div>
        <div className="shape-rows">
          {Array.from({ length: ROWS }, (_, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows of a shape are all alike
            <Skeleton key={row} height={14} width={`${90 - ((row * 7) % 25)}%`} />
          ))}
        </div>
      </div>
      <div className="empty soon shape-words" role="status">
        <h1>Calculating</h1>
        <WorkProgress />
        <span className="muted">
          The first calculation of a large feed takes a while. This page opens when it is ready; all other
          pages stay usable.
        </span>
      </div>
    </div>
  );
}
