import { asList } from '../../catalog/value';
import { type Overlay, overlayLabels } from '../../pictures/overlay';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  pictureFormat: { found: string; takes: readonly string[] };
  pictureSize: { found: string; least?: number; most?: number; advised?: number };
  pictureBeside: { found: readonly Overlay[] };
  pictureGround: { found: number; wanted: number };
}

const onValue: ValueCheckMaker<Facts> = (field, { sheet, seen }) => {
  const demands = sheet.pictures;
  if (field.kind !== 'pictures' || !demands) return undefined;
  const main = field.role === 'image';
  const { longestSide: side = {}, formats, white, plain } = demands;
  const takes: ReadonlySet<string> = new Set(formats);
  return (value, report) => {
    let reported: 'size' | 'advised' | undefined;
    asList(value).forEach((link, at) => {
      const facts = seen.picture(link);
      if (facts === undefined || facts === 'unreadable') return;
      const severity = main && at === 0 ? 'blocker' : 'risk';
      const { width, height, format, whiteBorder, beside } = facts;
      const longest = Math.max(width, height);
      const found = `${width} × ${height}`;
      if (!takes.has(format))
        report('pictureFormat', severity, field.code, { found: format, takes: formats });
      if (side.least !== undefined && longest < side.least) {
        // One word about the size of all: the first says it.
        if (reported !== 'size') report('pictureSize', severity, field.code, { found, least: side.least });
        reported = 'size';
      } else if (side.most !== undefined && longest > side.most) {
        if (reported !== 'size') report('pictureSize', severity, field.code, { found, most: side.most });
        reported = 'size';
      } else if (side.advised !== undefined && longest < side.advised && reported === undefined) {
        report('pictureSize', 'tip', field.code, { found, advised: side.advised });
        reported = 'advised';
      }
      if (plain && main && at === 0 && beside) report('pictureBeside', 'risk', field.code, { found: beside });
      if (main && at === 0 && white !== undefined && whiteBorder < white)
        report('pictureGround', 'risk', field.code, { found: whiteBorder, wanted: white });
    });
  };
};

/**
 * Pictures as they were measured, against what the channel takes. It refuses a listing whose main picture is wrong; of the
 * others it drops the wrong ones.
 */
export const pictureFacts: CheckModule<Facts> = {
  issues: {
    pictureFormat: {
      about: 'A picture in a format the channel does not accept.',
      severity: ['blocker', 'risk'],
      on: 'pictures',
      example: { found: 'gif', takes: ['jpeg', 'png'] },
      title: (label) => `${label} has a format that is not accepted`,
      words: ({ found, takes }, label) =>
        `${label} is a ${found.toUpperCase()}; accepted are ${takes.map((one) => one.toUpperCase()).join(', ')}`,
    },
    pictureSize: {
      about: 'A picture smaller or larger than the channel accepts or recommends.',
      severity: ['blocker', 'risk', 'tip'],
      on: 'pictures',
      example: { found: '320 × 320', least: 1000 },
      title: (label) => `${label} has the wrong size`,
      words: ({ found, least, most, advised }, label) =>
        least !== undefined
          ? `${label} is ${found} pixels; ${least} on the longest side is the minimum`
          : most !== undefined
            ? `${label} is ${found} pixels; ${most} on the longest side is the maximum`
            : `${label} is ${found} pixels; ${advised} on the longest side is recommended`,
    },
    pictureBeside: {
      about:
        'Text or a frame on the main picture, where the channel wants the product alone. Print on the product itself is fine.',
      severity: ['risk'],
      on: 'the main picture',
      example: { found: ['words'] },
      title: (label) => `${label} shows more than the product`,
      words: ({ found }, label) =>
        `${label} shows ${found.map((one) => overlayLabels[one]).join(' and ')} beside the product`,
    },
    pictureGround: {
      about: 'The border of the main picture is not as white as the channel requires.',
      severity: ['risk'],
      on: 'the main picture',
      example: { found: 0.12, wanted: 0.98 },
      title: (label) => `${label} is not on white`,
      words: ({ found, wanted }, label) =>
        `${label}: ${Math.floor(found * 100)} % of its border is white; ${Math.round(wanted * 100)} % are required`,
    },
  },
  onValue,
};
