import { route } from '@/app/gated';
import { health } from '@/server/monitoring/monitoring';
import { evaluatorAnswers } from '@/server/rpc/rpc';

/** Whether the application can do its work: 200 where it can, 503 where the database is away. */
export const GET = route({ right: 'look', what: 'ask for health' }, async () => {
  const found = await health(evaluatorAnswers);
  return Response.json(found, { status: found.ok ? 200 : 503 });
});
