import { type Attribute, axisCodes } from '../../core/catalog/attributes';
import { neverShared, type Values } from '../../core/catalog/item';
import { shownText } from '../../core/catalog/reading';
import { margin, onlyDigital, onlyPhysical, sections } from '../../core/catalog/sections';
import { termsWith } from '../../core/catalog/terms';
import { asList, asText, currencyInCode, languageInCode } from '../../core/catalog/value';
import { currentSnapshot, type Snapshot } from '../catalog/snapshot';
import type { Origin } from '../db/schema';
import { procedure } from '../rpc/rpc';

export interface ValueLine {
  readonly attribute: Attribute;
  readonly text: string;
  readonly own: boolean;
  readonly family: string | undefined;
  readonly overridden: number;
  readonly origin: string;
  readonly words: string[];
  readonly note: string;
}

export interface ValueGroup {
  readonly name: string;
  readonly values: ValueLine[];
}

interface Shown {
  /** What the item has of its own, or what the family has. */
  readonly own: Values;
  /** What its family shares with it. */
  readonly shared: Values;
  readonly origins: Readonly<Record<string, Origin>>;
  readonly family: string | undefined;
  /** The values of a family's items, to count those that say otherwise. */
  readonly members?: readonly Values[] | undefined;
}

/** An item's or a family's values under their headings; pictures stand elsewhere. */
export const valueGroups = procedure('valueGroups', async (shown: Shown) =>
  groupsOf(await currentSnapshot(), shown),
);

function groupsOf(snapshot: Snapshot, { own, shared, origins, family, members: given }: Shown): ValueGroup[] {
  const members = given ?? [];
  const read = (code: string) => asText(own[code] ?? shared[code]);
  const digital = read('digital') === 'true';
  const left = new Map(
    snapshot.attributes
      .filter(
        (one) =>
          one.code !== 'sku' &&
          one.kind !== 'pictures' &&
          (given === undefined || !neverShared.has(one.code)) &&
          (one.family === undefined || one.family === family) &&
          (digital ? !onlyPhysical.has(one.code) : !onlyDigital.has(one.code) || read(one.code) !== ''),
      )
      .map((one) => [one.code, one]),
  );
  /** What an empty line of a further language says where the main one has a text. */
  const wantedBy = (code: string): string => {
    const translation = languageInCode(code);
    return translation && read(translation.of) !== '' ? 'not translated yet' : '';
  };
  const line = (attribute: Attribute): ValueLine => {
    const { code } = attribute;
    const text = shownText(attribute, own[code] ?? shared[code]);
    const origin = origins[code];
    const share = code === 'cost' || code === 'price' ? margin(read('price'), read('cost')) : undefined;
    const fromFamily = shared[code];
    return {
      attribute,
      text,
      own: own[code] !== undefined,
      family:
        own[code] !== undefined && fromFamily !== undefined ? shownText(attribute, fromFamily) : undefined,
      overridden: members.filter((values) => values[code] !== undefined && own[code] !== undefined).length,
      origin: origin?.file && text !== '' ? `${origin.file}, row ${origin.row}, “${origin.column}”` : '',
      words: attribute.kind === 'choice' ? wordsOf(snapshot, attribute) : [],
      note: share && code === 'cost' ? `margin ${share} %` : text === '' ? wantedBy(code) : '',
    };
  };
  const beside = (code: string) =>
    snapshot.attributes.flatMap((one) =>
      currencyInCode(one.code)?.of === code || languageInCode(one.code)?.of === code ? [one.code] : [],
    );
  const groups = sections.map(({ name, codes }) => ({
    name,
    // Amounts in further currencies and texts in further languages stand beside the first.
    values: codes
      .flatMap((one) => [one, ...beside(one)])
      .flatMap((code) => {
        const attribute = left.get(code);
        left.delete(code);
        return attribute ? [line(attribute)] : [];
      }),
  }));
  return [...groups, { name: 'Everything else', values: [...left.values()].map(line) }].filter(
    ({ values }) => values.length > 0,
  );
}

/** The words a choice may be set to, as people read them. */
function wordsOf(snapshot: Snapshot, attribute: Attribute): string[] {
  const slot = snapshot.index.slotOf(attribute.code) ?? -1;
  const words = new Set<string>();
  for (const row of snapshot.rows)
    for (const word of asList(row[slot])) if (words.size < 300) words.add(word);
  return termsWith(attribute, words).map(({ term, label }) => label ?? term);
}

const MAX_AXIS_WORDS = 80;

/** What a family may vary by, each with the words that the catalog has for it: its own axes first. */
export const possibleAxes = procedure('possibleAxes', async (own: readonly string[]) => {
  const snapshot = await currentSnapshot();
  const choices = snapshot.attributes.flatMap(({ code, kind }) => (kind === 'choice' ? [code] : []));
  return [...new Set([...own, ...axisCodes, ...choices])].flatMap((code) => {
    const attribute = snapshot.attributes.find((one) => one.code === code);
    if (!attribute) return [];
    const slot = snapshot.index.slotOf(code) ?? -1;
    const found = new Set(snapshot.rows.flatMap((row) => asList(row[slot])));
    const words = termsWith(attribute, found).slice(0, MAX_AXIS_WORDS);
    return [{ code, label: attribute.label, words: words.map(({ term }) => term) }];
  });
});
