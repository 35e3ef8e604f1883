import { page } from '@/app/gated';
import { registerView } from '@/server/items/gtinRegister';
import { NumberRegister } from '@/ui/gtins/GtinRegister';

export default page(async () => (
  <div className="page">
    <NumberRegister view={await registerView()} />
  </div>
));
