import { textOfMarkup } from '../text/markup';
import type { ValueCheckMaker } from './check';

/** Plain text of which every line begins like an entry of a list. */
const bullets = /^(?:\s*(?:[-–•*·▪►✓]|\d{1,2}[.)])\s+\S[^\n]*(?:\n|$)){3,}$/;

/** A description that is a list and nothing else: no sentence says what the thing is. */
export const onlyList: ValueCheckMaker = (field) => {
  if (field.role !== 'description') return undefined;
  return (value, report) => {
    if (typeof value !== 'string') return;
    const first = value.trimStart()[0];
    if (first === undefined || !/[<\-–•*·▪►✓\d]/.test(first)) return;
    const rest = value.replace(/<(ul|ol)\b[^>]*>[\s\S]*?<\/\1>/gi, '');
    const isMarkup = rest !== value && textOfMarkup(rest).trim() === '';
    if (isMarkup || (first !== '<' && bullets.test(value.trim()))) report('onlyList', 'tip', field.code, {});
  };
};
