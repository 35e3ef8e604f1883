import { Surveyor } from '../../core/catalog/quality/survey';
import type { Field } from '../../core/channels/sheet';
import {
  type FieldSuggestion,
  type MappedElsewhere,
  suggestForField,
  withElsewhere,
} from '../../core/channels/suggestions';
import { inEnglish } from '../catalog/dictionaries';
import type { Snapshot } from '../catalog/snapshot';
import type { FeedContext } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { memoFor } from '../runtime/memo';

/** How the other feeds fill their fields: what was published, or drafted where nothing was. */
export async function mappedElsewhere(work: FeedContext): Promise<MappedElsewhere[]> {
  return (await otherFeeds(work.plans.head.code)).flatMap(({ settled, channel, name }) =>
    channel.sheet.fields.flatMap((field): MappedElsewhere[] => {
      const composition = settled.fields[field.code];
      return composition ? [{ field, composition, where: name }] : [];
    }),
  );
}

const surveyor = new Surveyor();

/** What the catalog's attributes hold; of each revision only what has changed since the one before is looked at. */
const surveyIn = (snapshot: Snapshot) =>
  memoFor(snapshot, 'survey', () => {
    const { filled, words } = surveyor.survey(snapshot.index.codes, snapshot.rows);
    return {
      filled,
      samples: new Map(
        [...words].map(([code, counts]) => [code, counts.slice(0, 100).map(([word]) => word)]),
      ),
    };
  });

/** What may fill a field, the likeliest first: by names and values, and by how other feeds fill theirs. */
export async function suggestionsFor(work: FeedContext, field: Field): Promise<FieldSuggestion[]> {
  return suggested(work, field, await mappedElsewhere(work));
}

export function suggested(
  { snapshot, sheet }: FeedContext,
  field: Field,
  elsewhere: readonly MappedElsewhere[],
): FieldSuggestion[] {
  // The number of an entry that the channel has is found there, and nowhere in the catalog.
  if (field.code === sheet.delivery.joins?.field) return [];
  const { filled, samples } = surveyIn(snapshot);
  return withElsewhere(
    field,
    suggestForField(field, snapshot.attributes, filled, samples, 3, inEnglish),
    elsewhere,
  );
}
