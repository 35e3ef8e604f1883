import { WorkProgress } from '../kit/display/Progress';

/** In place of a page that is not there yet: what is worked out for it. Nothing is shown of it where the page comes soon. */
export function Calculating() {
  return (
    <div className="page">
      <div className="empty soon" role="status">
        <h1>Being worked out</h1>
        <WorkProgress />
        <span className="muted">
          With many items the first look at a feed takes a while; later ones do not. This page comes by
          itself, and all others can be used meanwhile.
        </span>
      </div>
    </div>
  );
}
