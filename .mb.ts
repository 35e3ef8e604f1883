import { claim } from './src/core/checks/claims/claim';
import { dealerNote } from './src/core/checks/claims/dealerNote';
import { unfinished } from './src/core/checks/claims/unfinished';
import { promotion } from './src/core/checks/texts/promotion';
import { contact } from './src/core/checks/texts/contact';
import { placeholder } from './src/core/checks/texts/placeholder';
const words = 'ein leichter Hocker für den Kleingarten mit einem Gestell aus Esche und einem Sitz aus gewachstem Tuch der sich flach falten lässt und am Nagel hängt wenn er nicht gebraucht wird'.split(' ');
let seed = 7; const rnd = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
const texts = Array.from({ length: 20000 }, () => Array.from({ length: 45 }, () => words[Math.floor(rnd() * words.length)]).join(' '));
const field: any = { code: 'd', role: 'description', kind: 'richText' };
for (const [n, m] of Object.entries({ claim, dealerNote, unfinished, promotion, contact, placeholder })) {
  const run = (m as any).onValue(field, {}); let c = 0;
  const t = performance.now(); for (const x of texts) run(x, () => c++); console.log(n, ((performance.now() - t) * 1000 / texts.length).toFixed(1), 'µs', c);
}
