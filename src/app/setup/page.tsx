import { page } from '@/app/gated';
import { readWorkspace } from '@/server/workspace';
import { SetupForm } from '@/ui/setup/SetupForm';

export default page(async () => {
  const { name, currency, zone } = await readWorkspace();
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
        zones={['UTC', ...Intl.supportedValuesOf('timeZone')]}
      />
    </div>
  );
});
