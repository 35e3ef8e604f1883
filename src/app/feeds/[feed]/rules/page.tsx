import { rulesStage } from '@/server/feeds/rulesStage';
import { FeedFrame, type FeedQuery } from '@/ui/frame/FeedFrame';
import { RulesBench } from '@/ui/rules/RulesBench';

interface Props {
  params: Promise<{ feed: string }>;
  searchParams: Promise<FeedQuery>;
}

export default async function Page({ params, searchParams }: Props) {
  const [{ feed }, query] = await Promise.all([params, searchParams]);
  return (
    <FeedFrame feed={feed} stage="rules" query={query}>
      {(work) => <RulesBench stage={rulesStage(work)} />}
    </FeedFrame>
  );
}
