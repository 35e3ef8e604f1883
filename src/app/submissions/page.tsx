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
        <span className="sub">what was sent, and the results</span>
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
