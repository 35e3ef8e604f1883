/** Measures suggested places against the labelled ones; the test holds the figures, the bench prints them. */
import { rightPlaces } from '../../demo/places';
import { asText } from '../../src/core/catalog/value';
import {
  type CategorySearch,
  type ConfirmedCategory,
  catalogWords,
  searchTree,
  suggestCategories,
} from '../../src/core/categories/search';
import { type CategoryTree, nameOf } from '../../src/core/categories/tree';
import { readChannel } from '../../src/core/channels/bundle';
import { textOfMarkup } from '../../src/core/markup/markup';
import { expanderWith } from '../../src/files/words';
import { demoIndex, demoRows } from './demo';

export interface PlacementMark {
  readonly channel: string;
  /** Shares of the labelled categories, 0 to 1. */
  readonly first: number;
  readonly three: number;
  readonly missed: readonly string[];
}

/** Expanding the places of a tree takes longer than asking for one. */
const searches = new Map<string, CategorySearch>();
function searchOf(channel: string, tree: CategoryTree): CategorySearch {
  const search = searches.get(channel) ?? searchTree(tree, expanderWith());
  searches.set(channel, search);
  return search;
}

const slot = (code: string) => demoIndex.slotOf(code) ?? -1;
const text = (row: (typeof demoRows)[number]) => textOfMarkup(asText(row[slot('description')]));

/** @param learning whether the right places in the other channels count as confirmed */
export function placementMarks(
  channels: readonly string[],
  read: (channel: string, file: string) => string,
  learning: boolean,
): PlacementMark[] {
  const trees = new Map(
    channels.map((channel) => [
      channel,
      readChannel(read(channel, 'requirements.json'), read(channel, 'taxonomy.csv')).tree,
    ]),
  );
  const company = [...new Set(demoRows.map((row) => asText(row[slot('category')])))];
  const catalog = catalogWords(demoRows.map(text));
  const confirmed = (category: string, but: string): ConfirmedCategory[] =>
    [...trees].flatMap(([channel, tree]) => {
      const wanted = rightPlaces(channel)[category]?.[0];
      const place = [...tree.byCode.values()].find(({ code }) => nameOf(tree, code, 'en') === wanted);
      return channel === but || !place
        ? []
        : [{ words: Object.values(place.names).join(' '), where: channel }];
    });
  return [...trees].map(([channel, tree]) => {
    const search = searchOf(channel, tree);
    const ranks = Object.entries(rightPlaces(channel)).map(([name, wanted]) => {
      const rows = demoRows.filter((row) => asText(row[slot('category')]) === name);
      const found = suggestCategories(search, tree, {
        name,
        company,
        itemNames: rows.map((row) => asText(row[slot('name')])),
        described: { texts: rows.map(text), catalog },
        ...(learning ? { confirmed: confirmed(name, channel) } : {}),
      });
      return { name, rank: found.findIndex((hit) => wanted.includes(nameOf(tree, hit.code, 'en'))) };
    });
    return {
      channel,
      first: ranks.filter(({ rank }) => rank === 0).length / ranks.length,
      three: ranks.filter(({ rank }) => rank >= 0).length / ranks.length,
      missed: ranks.filter(({ rank }) => rank < 0).map(({ name }) => name),
    };
  });
}
