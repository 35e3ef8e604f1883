import type { CheckModule } from '../check';

/** What others have as well: how many, and the first of them. */
export interface Shared {
  /** The number, where it is one. */
  readonly found: string;
  readonly others: readonly string[];
  readonly count: number;
}

interface Facts {
  duplicate: Shared;
  sameGtin: Shared;
  sameTitle: Shared;
  samePicture: Shared;
  sameText: Shared;
}

const othersIn = ({ others, count }: Shared): string =>
  `${others.join(', ')}${count > others.length ? ` and ${count - others.length} more` : ''}`;

/** Values that several listings of a feed have; found by comparing them (`comparing.ts`). */
export const sharedValues: CheckModule<Facts> = {
  issues: {
    duplicate: {
      about: 'A value that must be unique is on several listings. Its severity is fixed.',
      severity: ['blocker'],
      on: 'unique fields',
      source: 'GS1 General Specifications',
      example: { found: '9520000030773', others: ['QM-POT-RDG-TER-14'], count: 1 },
      title: (label) => `${label} is on several listings`,
      words: (shared, label) => `${label} ${shared.found} is also on ${othersIn(shared)}`,
    },
    sameGtin: {
      about:
        'Several listings have the same GTIN, and the channel does not require it to be unique. Many channels reject all of them. It never blocks.',
      severity: ['risk'],
      on: 'GTINs',
      source: 'GS1 General Specifications',
      example: { found: '9520000030773', others: ['QM-POT-RDG-TER-14'], count: 1 },
      title: (label) => `${label} is on several listings`,
      words: (shared, label) =>
        `${label} ${shared.found} is also on ${othersIn(shared)}; a GTIN names one item`,
    },
    sameTitle: {
      about: 'Two listings have the same title, ignoring letter case. It never blocks.',
      severity: ['risk'],
      on: 'titles',
      example: { found: 'Glass cloche', others: ['QM-CLO-GLA-24'], count: 1 },
      title: (label) => `${label} is the same on several listings`,
      words: (shared, label) => `${label} is the same on ${othersIn(shared)}`,
    },
    samePicture: {
      about: 'Items of different families have the same main picture. It never blocks.',
      severity: ['risk'],
      on: 'the main picture',
      example: { found: 'https://quillmoss.example/pictures/1.jpg', others: ['QM-CLO-GLA-24'], count: 1 },
      title: (label) => `${label} is the same on several families`,
      words: (shared, label) => `${label} has the same main picture as ${othersIn(shared)}`,
    },
    sameText: {
      about: 'Items of different families have the same description. It never blocks.',
      severity: ['tip'],
      on: 'descriptions',
      example: { found: 'Keeps the sill dry.', others: ['QM-CLO-GLA-24'], count: 2 },
      title: (label) => `${label} is copied`,
      words: (shared, label) => `${label} is the same as that of ${othersIn(shared)}`,
    },
  },
};
