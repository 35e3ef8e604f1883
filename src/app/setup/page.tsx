import { page } from '@/app/gated';
import { wordsState } from '@/server/catalog/dictionaries';
import { readWorkspace } from '@/server/catalog/workspace';
import { readRetention } from '@/server/schedules/retention';
import { readVisits, visitsView } from '@/server/shop/visits';
import { Dictionaries } from '@/ui/workspace/Dictionaries';
import { Keeping } from '@/ui/workspace/Retention';
import { Visits } from '@/ui/workspace/ShopVisits';
import { SetupForm } from '@/ui/workspace/WorkspaceForm';

export default page(async () => {
  const [{ name, currency, zone, language }, words, retention, visits, visited] = await Promise.all([
    readWorkspace(),
    wordsState(),
    readRetention(),
    readVisits(),
    visitsView(),
  ]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Setup</h1>
        <span className="sub">what holds for the whole shop</span>
      </header>
      <SetupForm
        name={name}
        currency={currency ?? ''}
        zone={zone}
        language={language}
        zones={['UTC', ...Intl.supportedValuesOf('timeZone')]}
      />
      <Visits visits={visits} view={visited} />
      <Keeping retention={retention} />
      <Dictionaries {...words} />
    </div>
  );
});
