import { page } from '@/app/gated';
import { readRetention } from '@/server/retention';
import { wordsState } from '@/server/words';
import { readWorkspace } from '@/server/workspace';
import { Dictionaries } from '@/ui/setup/Dictionaries';
import { Keeping } from '@/ui/setup/Keeping';
import { SetupForm } from '@/ui/setup/SetupForm';

export default page(async () => {
  const [{ name, currency, zone, language }, words, retention] = await Promise.all([
    readWorkspace(),
    wordsState(),
    readRetention(),
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
      <Keeping retention={retention} />
      <Dictionaries {...words} />
    </div>
  );
});
