import { textOfMarkup } from '../../markup/markup';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  onlyList: Record<never, never>;
}

/** Plain text of which every line begins like an entry of a list. */
const bullets = /^(?:\s*(?:[-–•*·▪►✓]|\d{1,2}[.)])\s+\S[^\n]*(?:\n|$)){3,}$/;

const onValue: ValueCheckMaker<Facts> = (field) => {
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

/** A description that is a list and nothing else: no sentence says what the thing is. */
export const onlyList: CheckModule<Facts> = {
  issues: {
    onlyList: {
      about: 'A description that is only a list.',
      severity: ['tip'],
      on: 'descriptions',
      example: {},
      title: (label) => `${label} is only a list`,
      words: (_facts, label) => `${label} is only a list; add a sentence that describes the product`,
    },
  },
  onValue,
};
