import { page } from '@/app/gated';
import { dictionariesState } from '@/server/catalog/dictionaries';
import { readWorkspace } from '@/server/catalog/workspace';
import { readRetention } from '@/server/schedules/retention';
import { readVisits, visitsView } from '@/server/shop/visits';
import { Dictionaries } from '@/ui/workspace/Dictionaries';
import { RetentionForm } from '@/ui/workspace/Retention';
import { ShopVisitsForm } from '@/ui/workspace/ShopVisits';
import { WorkspaceForm } from '@/ui/workspace/WorkspaceForm';

export default page(async () => {
  const [{ name, currency, zone, language, locale }, words, retention, visits, visited] = await Promise.all([
    readWorkspace(),
    dictionariesState(),
    readRetention(),
    readVisits(),
    visitsView(),
  ]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Settings</h1>
        <span className="sub">for the whole shop</span>
      </header>
      <WorkspaceForm
        name={name}
        currency={currency ?? ''}
        zone={zone}
        language={language}
        locale={locale}
        zones={['UTC', ...Intl.supportedValuesOf('timeZone')]}
      />
      <ShopVisitsForm visits={visits} view={visited} />
      <RetentionForm retention={retention} />
      <Dictionaries {...words} />
    </div>
  );
});
