import { fold } from '../../text/folding';
import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { onItem, type Read, reader } from '../item';

interface Facts {
  isbn: { found: string; reason: 'noBook' | 'noIsbn' };
}

/** What a category or name calls books, in nine languages; common practice. */
const bookWords =
  /\b(?:books?|buch|bucher|livres?|libros?|libri|libro|boeken?|ksiazk\w*|livros?|bocker|bok|ebooks?|audiobooks?|horbuch|novels?|roman)\b/;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  const field = context.sheet.fields.find(({ role }) => role === 'gtin')?.code;
  // Where the catalog does not tell books from other goods nothing can be said.
  if (field === undefined || (context.slotOf('bookFormat') ?? context.slotOf('author')) === undefined)
    return [];
  const [number, format, author, category, name] = (
    ['gtin', 'bookFormat', 'author', 'category', 'name'] as const
  ).map((code) => reader(context, code)) as [Read, Read, Read, Read, Read];
  return [
    onItem(field, (row, report) => {
      const digits = number(row).replace(/[\s-]/g, '');
      if (!/^(?:\d{13}|\d{9}[\dXx])$/.test(digits)) return;
      const isIsbn = digits.length === 10 || (/^97[89]/.test(digits) && !digits.startsWith('9790'));
      const isBook = format(row) !== '' || author(row) !== '';
      if (isBook && !isIsbn && digits.length === 13)
        report('isbn', 'risk', field, { found: digits, reason: 'noIsbn' });
      if (!isBook && isIsbn && digits.length === 13 && !bookWords.test(fold(`${category(row)} ${name(row)}`)))
        report('isbn', 'risk', field, { found: digits, reason: 'noBook' });
    }),
  ];
}

/** A book has an ISBN, and nothing else has one. ISBN Users' Manual: prefixes 978 and 979, of which 979-0 are ISMN. */
export const isbn: CheckModule<Facts> = {
  issues: {
    isbn: {
      about: 'A book without an ISBN, or an ISBN on another product.',
      severity: ['risk'],
      on: 'identifiers',
      source: 'ISBN Users’ Manual',
      example: { found: '9783161484100', reason: 'noBook' },
      title: (label) => `${label}: books and ISBN disagree`,
      words: ({ found, reason }, label) =>
        reason === 'noBook'
          ? `${label} ${found} is an ISBN, but the item is not a book`
          : `${label} ${found} is not an ISBN, but the item is a book`,
    },
  },
  onListing,
};
