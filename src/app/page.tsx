import { page } from '@/app/gated';
import { overviewView } from '@/server/pages/overview';
import { Overview } from '@/ui/overview/Overview';

export default page(async () => <Overview board={await overviewView()} />);
