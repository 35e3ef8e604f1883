import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  garbled: { found: string; reason: 'encoding' | 'markup' | 'entity' };
}

const forms = [
  // UTF-8 read as a Western encoding, once or twice, and the sign for what could not be read.
  ['encoding', /Ã[\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]|â€[\u0080-\u00bf™œž“”]|Â[\u00a0-\u00bf]|\ufffd/u],
  ['markup', /<\/?(?:p|br|b|i|u|li|ul|ol|div|span|strong|em|h[1-6]|a|table|font)\b[^>]*>/i],
  ['entity', /&(?:amp|quot|apos|lt|gt|nbsp|[aouAOU]uml|szlig|eacute|euro|#\d{2,5});/],
] as const;

const onValue: ValueCheckMaker<Facts> = (field) => {
  const plain = field.kind === 'text';
  if (!plain && field.kind !== 'richText') return undefined;
  return onEach((text, report) => {
    for (const [reason, form] of forms) {
      if (!plain && reason !== 'encoding') return;
      const found = form.exec(text)?.[0];
      if (found === undefined) continue;
      report('garbled', 'risk', field.code, { found, reason });
      return;
    }
  });
};

/** What a shopper would see as rubbish: letters read in the wrong encoding, and markup where plain text is taken. */
export const garbled: CheckModule<Facts> = {
  issues: {
    garbled: {
      about: 'Characters of a wrong encoding, or visible markup.',
      severity: ['risk'],
      on: 'texts',
      example: { found: 'Ã¼', reason: 'encoding' },
      title: (label) => `${label} has unreadable characters`,
      words: ({ found, reason }, label) =>
        reason === 'encoding'
          ? `${label} holds “${found}”: the text was read in the wrong encoding`
          : `${label} holds “${found}”, which shoppers would see`,
    },
  },
  onValue,
};
