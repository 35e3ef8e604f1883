import { page } from '@/app/gated';
import { submissionsView } from '@/server/submissions/list';
import { Link } from '@/ui/kit/Link';
import { Submissions } from '@/ui/submissions/Submissions';

export default page(async ({ query }) => {
  const view = await submissionsView({
    feed: query.feed || undefined,
    before: Number(query.before) || undefined,
  });
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Submissions</h1>
        <span className="sub">everything that was sent, and what came back</span>
        <div className="acts">
          <Link className="text" href="/submissions/insights">
            Insights
          </Link>
        </div>
      </header>
      <Submissions view={view} />
    </div>
  );
});
