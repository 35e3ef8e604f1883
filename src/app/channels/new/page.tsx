import { page } from '@/app/gated';
import { listChannels } from '@/server/channels/sheets';
import { NewChannel } from '@/ui/channels/NewChannel';

export default page(async () => {
  const channels = (await listChannels()).filter(({ version }) => version !== undefined);
  return (
    <div className="page scrolls">
      <NewChannel channels={channels.map(({ code, name }) => ({ code, name }))} />
    </div>
  );
});
