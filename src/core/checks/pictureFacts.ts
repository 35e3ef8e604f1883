import { asList } from '../catalog/value';
import type { ValueCheckMaker } from './check';

/**
 * Pictures as they were measured, against what the channel takes. It refuses a listing whose main picture is wrong; of the
 * others it drops the wrong ones.
 */
export const pictureFacts: ValueCheckMaker = (field, { sheet, seen }) => {
  const demands = sheet.pictures;
  if (field.kind !== 'pictures' || !demands) return undefined;
  const main = field.role === 'image';
  const { longestSide: side = {}, formats, white, plain } = demands;
  const takes: ReadonlySet<string> = new Set(formats);
  return (value, report) => {
    let told: 'size' | 'advised' | undefined;
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
        if (told !== 'size') report('pictureSize', severity, field.code, { found, least: side.least });
        told = 'size';
      } else if (side.most !== undefined && longest > side.most) {
        if (told !== 'size') report('pictureSize', severity, field.code, { found, most: side.most });
        told = 'size';
      } else if (side.advised !== undefined && longest < side.advised && told === undefined) {
        report('pictureSize', 'tip', field.code, { found, advised: side.advised });
        told = 'advised';
      }
      if (plain && main && at === 0 && beside) report('pictureBeside', 'risk', field.code, { found: beside });
      if (main && at === 0 && white !== undefined && whiteBorder < white)
        report('pictureGround', 'risk', field.code, { found: whiteBorder, wanted: white });
    });
  };
};
