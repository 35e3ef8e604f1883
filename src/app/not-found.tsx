import { LinkButton } from '@/ui/kit/LinkButton';

export default function NotFound() {
  return (
    <div className="page">
      <div className="empty">
        <h1>This page does not exist.</h1>
        <span className="muted">No item, feed or import run has this address, or it was deleted.</span>
        <LinkButton href="/">Go to Overview</LinkButton>
      </div>
    </div>
  );
}
