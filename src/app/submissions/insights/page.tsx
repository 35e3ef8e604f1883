import { page } from '@/app/gated';
import { insights } from '@/server/submissions/list';
import { Link } from '@/ui/kit/Link';
import { InsightsPage } from '@/ui/submissions/Insights';

export default page(async ({ query }) => {
  const found = await insights(Number(query.days) || 30);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Insights</h1>
        <span className="sub">acceptance over time</span>
        <div className="acts">
          <Link className="text" href="/submissions">
            Submissions
          </Link>
        </div>
      </header>
      <InsightsPage insights={found} />
    </div>
  );
});
