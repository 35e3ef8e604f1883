import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { pairingView } from '@/server/suppliers/suppliers';
import { PairingBench } from '@/ui/suppliers/MatchingPage';

export default page(
  async ({ params: { range } }) => {
    const view = await pairingView(range);
    if (!view) notFound();
    return (
      <div className="page">
        <PairingBench view={view} />
      </div>
    );
  },
  { params: z.object({ range: part }) },
);
