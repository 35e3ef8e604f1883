import { redirect } from 'next/navigation';
import { feedPage } from '@/app/feeds/feedPage';
import { page } from '@/app/gated';

export default page(async ({ params: { feed } }) => redirect(`/feeds/${feed}/fields`), feedPage);
