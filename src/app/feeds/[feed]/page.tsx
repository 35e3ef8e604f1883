import { redirect } from 'next/navigation';

export default async function Page({ params }: { params: Promise<{ feed: string }> }) {
  redirect(`/feeds/${(await params).feed}/fields`);
}
