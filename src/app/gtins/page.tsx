import { page } from '@/app/gated';
import { registerView } from '@/server/items/gtinRegister';
import { GtinRegister } from '@/ui/gtins/GtinRegister';

export default page(async () => (
  <div className="page">
    <GtinRegister view={await registerView()} />
  </div>
));
