import { page } from '@/app/gated';
import { boardView } from '@/server/pages/overview';
import { Board } from '@/ui/overview/Overview';

export default page(async () => <Board board={await boardView()} />);
