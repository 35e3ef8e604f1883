import { asList } from '../../catalog/value';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  placeholderPicture: { link: string };
}

/** What shops call the picture that stands for a missing one, in nine languages; common practice, no source. */
const standsFor =
  /(?:^|[/_.-])(?:place-?holder|no[-_]?(?:image|img|photo|picture|pic)|missing[-_]?(?:image|photo)|image[-_]?(?:missing|not[-_]?(?:found|available))|coming[-_]?soon|dummy|blank|default[-_]?(?:image|product)|kein[-_]?(?:bild|foto)|platzhalter|pas[-_]?d[-_]?image|sin[-_]?(?:imagen|foto)|senza[-_]?(?:immagine|foto)|geen[-_]?(?:afbeelding|foto)|brak[-_]?zdjecia|sem[-_]?(?:imagem|foto)|ingen[-_]?bild)(?=[/_.?-]|\d*\.|$)/i;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.kind !== 'pictures') return undefined;
  return (value, report) => {
    for (const link of asList(value))
      if (standsFor.test(link)) return report('placeholderPicture', 'risk', field.code, { link });
  };
};

/** A picture that says there is none. */
export const placeholderPicture: CheckModule<Facts> = {
  issues: {
    placeholderPicture: {
      about: 'A placeholder instead of a picture, by its address.',
      severity: ['risk'],
      on: 'pictures',
      example: { link: 'https://quillmoss.example/no-image.png' },
      title: (label) => `${label}: a placeholder instead of a picture`,
      words: ({ link }, label) => `${label}: “${link}” is a placeholder; add a picture of the item`,
    },
  },
  onValue,
};
