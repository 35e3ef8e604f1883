import { boardView } from '@/server/feeds/board';
import { Board } from '@/ui/board/Board';

export default async function Page() {
  return <Board board={await boardView()} />;
}
