import { WorkProgress } from '../kit/display/Progress';

/** In place of a page that is not there yet: what is worked out for it. Nothing is shown of it where the page comes soon. */
export function Calculating() {
  return (
    <div className="page">
      <div className="empty soon" role="status">
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
