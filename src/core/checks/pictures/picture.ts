import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  picture: { found: string };
}

const onValue: ValueCheckMaker<Facts> = (field, { seen }) => {
  if (field.kind !== 'pictures') return undefined;
  return onEach((text, report) => {
    if (seen.picture(text) === 'unreadable') report('picture', 'blocker', field.code, { found: text });
  });
};

/** Pictures that were looked at and cannot be read are not sent. */
export const picture: CheckModule<Facts> = {
  issues: {
    picture: {
      about: 'A picture cannot be read.',
      severity: ['blocker'],
      on: 'pictures',
      example: { found: 'https://quillmoss.example/pictures/1.jpg' },
      title: (label) => `${label} cannot be read`,
      words: ({ found }, label) => `${label}: the picture ${found} cannot be read`,
    },
  },
  onValue,
};
