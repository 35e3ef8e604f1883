import { z } from 'zod';
import { page } from '@/app/gated';
import { keywordsView } from '@/server/catalog/keywords';
import { readWorkspace } from '@/server/catalog/workspace';
import { KeywordList } from '@/ui/keywords/KeywordList';

export default page(
  async ({ query: { language } }) => {
    const [view, workspace] = await Promise.all([keywordsView(language), readWorkspace()]);
    return (
      <div className="page">
        <KeywordList view={view} language={language} main={workspace.language} />
      </div>
    );
  },
  { query: z.object({ language: z.string().max(3).optional() }) },
);
