import { asText } from '../../catalog/value';
import { fold } from '../../text/folding';
import type { CheckContext, CheckModule, ListingCheck } from '../check';

interface Facts {
  pictureText: { found: string; says: 'title' | 'file' | 'nothing' };
}
/** A file's name, or what cameras call one. */
const fileName = /\.(?:jpe?g|png|gif|webp|avif|tiff?)$|^(?:img|dsc[nf]?|pict?|photo|image)[\s_-]*\d+$/i;
/** Words for a picture, which say nothing of what is on it, in nine languages. */
const onlyPicture = new Set(
  'picture|image|photo|product image|product photo|main image|bild|foto|produktbild|produktfoto|imagen|imagen del producto|photo du produit|image du produit|immagine|immagine del prodotto|afbeelding|productfoto|zdjecie|zdjecie produktu|obraz|imagem|foto do produto|produktbilden'.split(
    '|',
  ),
);

function onListing({ sheet, fieldAt }: CheckContext): ListingCheck<Facts>[] {
  const field = sheet.fields.find(({ role }) => role === 'pictureText')?.code;
  const at = field === undefined ? undefined : fieldAt(field);
  if (field === undefined || at === undefined) return [];
  const title = sheet.fields.find(({ role }) => role === 'title')?.code;
  const titleAt = title === undefined ? undefined : fieldAt(title);
  return [
    {
      field,
      reads: title === undefined ? [field] : [field, title],
      readsPlace: false,
      run(_row, values, report) {
        const found = asText(values[at]).trim();
        if (found === '') return;
        const plain = fold(found);
        const says = fileName.test(found)
          ? 'file'
          : onlyPicture.has(plain)
            ? 'nothing'
            : titleAt !== undefined && plain === fold(asText(values[titleAt]))
              ? 'title'
              : undefined;
        if (says) report('pictureText', 'tip', field, { found, says });
      },
    },
  ];
}

/** An alternative text that tells nobody what the picture shows. */
export const pictureText: CheckModule<Facts> = {
  issues: {
    pictureText: {
      about: 'An alternative text that does not describe the picture: the title, a file name, or “picture”.',
      severity: ['tip'],
      on: 'alternative texts',
      source: 'WCAG 2.2, success criterion 1.1.1 (failure F30)',
      example: { found: 'IMG_4711.jpg', says: 'file' },
      title: (label) => `${label} does not describe the picture`,
      words: ({ found, says }, label) =>
        says === 'title'
          ? `${label} only repeats the title`
          : `${label} “${found}” ${says === 'file' ? 'is a file name' : 'does not describe the picture'}`,
    },
  },
  onListing,
};
