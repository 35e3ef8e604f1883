import { LinkButton } from '@/ui/kit/LinkButton';

export default function NotFound() {
  return (
    <div className="page">
      <div className="empty">
        <h1>There is nothing here.</h1>
        <span className="muted">
          The item, feed or run this address names does not exist, or no longer does.
        </span>
        <LinkButton href="/">To the overview</LinkButton>
      </div>
    </div>
  );
}
