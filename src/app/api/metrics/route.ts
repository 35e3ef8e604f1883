import { route } from '@/app/gated';
import { metricsText } from '@/server/monitoring/monitoring';
import { memoOfProcesses } from '@/server/rpc/rpc';

/** Counters and timings, in the text form that scrapers read. */
export const GET = route(
  { right: 'look', what: 'read metrics' },
  async () =>
    new Response(await metricsText(await memoOfProcesses()), {
      headers: { 'content-type': 'text/plain; version=0.0.4; charset=utf-8' },
    }),
);
