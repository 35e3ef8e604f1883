import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { type FeedContext, loadFeedContext } from '@/server/evaluation/feedContext';
import { metricsText } from '@/server/monitoring/monitoring';
import { editDraft, feedPlans } from '@/server/plans/drafts';
import { memoOfProcesses } from '@/server/rpc/rpc';
import { memoFigures, setMemoBudget } from '@/server/runtime/memo';
import { settings } from '@/server/runtime/settings';
import { checksStage } from '@/server/stages/checks';
import { closeDatabase, freshDemo } from '../support/stack';

/** Evaluations that nobody works on any more are let go: what is kept stays within its bytes. */
beforeEach(freshDemo);
afterAll(closeDatabase);

setFlagsFromString('--expose_gc');
const collect = runInNewContext('gc') as () => void;

test('evaluations of drafts that were edited on are not held beyond what may be kept', async () => {
  setMemoBudget(1);
  const feed = 'lanternry-de';
  const seen: WeakRef<object>[] = [];
  try {
    for (let at = 0; at < 14; at++) {
      const { revision = 0 } = (await feedPlans(feed)) ?? {};
      const edited = await editDraft(feed, revision, {
        edit: 'addRule',
        rule: {
          id: `memory-${at}`,
          name: `Rule ${at}`,
          on: true,
          when: { attribute: 'sku', is: 'contains', value: `-${at}` },
          then: [{ do: 'set', field: 'material', text: `material ${at}` }],
        },
      } as never);
      if (!edited.ok) throw new Error(edited.reason);
      const work = (await loadFeedContext(feed)) as FeedContext;
      // A page is made of it, with all that is kept beside an evaluation.
      await checksStage(work, {} as never);
      work.found();
      seen.push(new WeakRef(work.draft));
    }
    for (let times = 0; times < 4; times++) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      collect();
    }
    const alive = seen.filter((one) => one.deref() !== undefined).length;
    // The last one, and the one that it was counted on from.
    expect(alive).toBeLessThanOrEqual(3);
  } finally {
    setMemoBudget(settings.evaluationBytes);
  }
});

test('metrics tell what the memo of a process found, and within which bytes', async () => {
  await loadFeedContext('lanternry-de');
  const text = await metricsText(await memoOfProcesses());
  const { hits = 0, bytes = 0 } = memoFigures().find(({ owner }) => owner === 'evaluations') ?? {};
  expect([hits, bytes].every((figure) => figure > 0)).toBe(true);
  expect(bytes).toBeLessThanOrEqual(settings.evaluationBytes);
  const lines = text.split('\n');
  expect(lines).toContain(`lively_memo_bytes{process="web",owner="evaluations"} ${bytes}`);
  expect(lines).toContain(`lively_memo_hits_total{process="web",owner="evaluations"} ${hits}`);
  // Every line is a comment or a metric with its value, as scrapers read it: the text exposition format of Prometheus, version 0.0.4.
  for (const line of lines.filter((one) => one !== ''))
    expect(line).toMatch(/^(?:# (?:HELP|TYPE) [a-z0-9_]+ .+|[a-z0-9_]+(?:\{[^{}]*\})? \S+)$/);
});
