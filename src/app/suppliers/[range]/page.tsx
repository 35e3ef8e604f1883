import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { matchingView } from '@/server/suppliers/suppliers';
import { MatchingPage } from '@/ui/suppliers/MatchingPage';

export default page(
  async ({ params: { range } }) => {
    const view = await matchingView(range);
    if (!view) notFound();
    return (
      <div className="page">
        <MatchingPage view={view} />
      </div>
    );
  },
  { params: z.object({ range: part }) },
);
