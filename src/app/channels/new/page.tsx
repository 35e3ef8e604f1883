import { listChannels } from '@/server/channels/sheets';
import { NewChannel } from '@/ui/channels/NewChannel';

export default async function Page() {
  const channels = (await listChannels()).filter(({ version }) => version !== undefined);
  return (
    <div className="page scrolls">
      <NewChannel channels={channels.map(({ code, name }) => ({ code, name }))} />
    </div>
  );
}
