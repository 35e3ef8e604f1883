import { page } from '@/app/gated';
import { dictionariesState } from '@/server/catalog/dictionaries';
import { readWorkspace } from '@/server/catalog/workspace';
import { readRetention } from '@/server/schedules/retention';
import { readVisits, visitsView } from '@/server/shop/visits';
import { Dictionaries } from '@/ui/workspace/Dictionaries';
import { RetentionForm } from '@/ui/workspace/Retention';
import { SettingsFrame } from '@/ui/workspace/SettingsFrame';
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
      <SettingsFrame
        sections={[
          {
            key: 'shop',
            title: 'Shop',
            words: 'name currency time zone language region numbers dates locale',
            content: (
              <WorkspaceForm
                name={name}
                currency={currency ?? ''}
                zone={zone}
                language={language}
                locale={locale}
                zones={['UTC', ...Intl.supportedValuesOf('timeZone')]}
              />
            ),
          },
          {
            key: 'pages',
            title: 'Pages of the shop',
            words: 'visit price stock condition robots.txt addresses',
            content: <ShopVisitsForm visits={visits} view={visited} />,
          },
          {
            key: 'retention',
            title: 'Retention',
            words: 'days sent files listings imported webhook calls delete',
            content: <RetentionForm retention={retention} />,
          },
          {
            key: 'dictionaries',
            title: 'Dictionaries',
            words: 'languages category suggestions download',
            content: <Dictionaries {...words} />,
          },
        ]}
      />
    </div>
  );
});
